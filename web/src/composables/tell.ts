import { ElMessage } from 'element-plus'

/** Show what went wrong, in the words of the error. */
export function tellError(error: unknown) {
  ElMessage.error({ message: (error as Error).message, duration: 8000, showClose: true })
}

/** Tell of something that was done. */
export function tell(message: string) {
  ElMessage.success({ message, duration: 4000 })
}
