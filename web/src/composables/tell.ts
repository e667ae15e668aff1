import { ElMessage } from 'element-plus'

// At the bottom: what is at the top is being worked with.
const WHERE = { placement: 'bottom', offset: 24 } as const

/** Show what went wrong, in the words of the error. */
export function tellError(error: unknown) {
  ElMessage.error({ ...WHERE, message: (error as Error).message, duration: 8000, showClose: true })
}

/** Tell of something that was done. */
export function tell(message: string) {
  ElMessage.success({ ...WHERE, message, duration: 4000 })
}

/** Tell of something the person should know before going on. */
export function tellChange(message: string) {
  ElMessage.warning({ ...WHERE, message, duration: 6000 })
}
