import { ElMessageBox } from 'element-plus'
import { ref } from 'vue'
import { tellError } from './tell'
import { takeStock, type Asset, type StockItem } from './useShelf'

/** Taking things from the stock library. What it costs and what its licence asks for is said before. */
export function useTaking(changed: () => Promise<void>) {
  const taking = ref('')

  async function take(item: StockItem): Promise<Asset | undefined> {
    const { sort, price, credit } = item.licence
    if (!item.key && (sort === 'paid' || sort === 'attribution')) {
      const asks = sort === 'paid' ? `It costs €${price}. The library puts that on your workspace's bill.` : `It is free; a post that shows it has to name its author, ${credit}. Hovvet gathers the lines for that.`
      const sure = await ElMessageBox.confirm(asks, `Take “${item.name}”?`, { confirmButtonText: sort === 'paid' ? `Take it for €${price}` : 'Take it', cancelButtonText: 'Leave it' }).catch(() => null)
      if (!sure) return
    }
    taking.value = item.id
    try {
      return await takeStock(item)
    } catch (error) {
      tellError(error)
    } finally {
      taking.value = ''
      await changed()
    }
  }

  return { take, taking }
}
