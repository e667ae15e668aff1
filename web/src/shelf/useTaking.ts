import { ElMessageBox } from 'element-plus'
import { ref } from 'vue'
import { tellError } from '@/shared/tell'
import { takeStock, type Asset, type StockItem } from './useShelf'

/** Taking things from the stock library. What it costs and what its licence asks for is said before. */
export function useTaking(changed: () => Promise<void>) {
  const taking = ref('')

  async function take(item: StockItem): Promise<Asset | undefined> {
    if (!item.key && item.asks) {
      const sure = await ElMessageBox.confirm(item.asks, `Take “${item.name}”?`, { confirmButtonText: 'Take it', cancelButtonText: 'Leave it' }).catch(() => null)
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
