import { ElMessageBox } from 'element-plus'

const CANCEL = '.el-message-box__btns button:first-child'

/** Ask before something is gone for good. The focus begins on Cancel: whoever presses Enter without reading loses nothing. */
export async function sureToDelete(title: string, told: string, button = 'Delete'): Promise<boolean> {
  const toCancel = (event: FocusEvent) => {
    const cancel = (event.target as HTMLElement).closest('.deleting')?.querySelector<HTMLElement>(CANCEL)
    if (!cancel) return
    document.removeEventListener('focusin', toCancel)
    cancel.focus()
  }
  document.addEventListener('focusin', toCancel)
  try {
    await ElMessageBox.confirm(told, title, {
      confirmButtonText: button, cancelButtonText: 'Cancel', confirmButtonType: 'danger', customClass: 'deleting', autofocus: false,
    })
    return true
  } catch {
    return false
  } finally {
    document.removeEventListener('focusin', toCancel)
  }
}
