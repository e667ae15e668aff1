import { ElMessage, type MessageHandler } from 'element-plus'

// At the bottom: what is at the top is being worked with.
const WHERE = { placement: 'bottom', offset: 24 } as const

let shown: MessageHandler | null = null

/** One message at a time: the newest says what matters now, and a heap of them covers the page. */
function show(type: 'error' | 'success' | 'warning', message: string, duration: number) {
  shown?.close()
  shown = ElMessage({ ...WHERE, type, message, duration, showClose: type === 'error' })
}

/** Show what went wrong, in the words of the error. */
export function tellError(error: unknown) {
  show('error', (error as Error).message, 8000)
}

/** Tell of something that was done. */
export function tell(message: string) {
  show('success', message, 4000)
}

/** Tell of something the person should know before going on. */
export function tellChange(message: string) {
  show('warning', message, 6000)
}
