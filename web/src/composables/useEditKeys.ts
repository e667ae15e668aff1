import { useEventListener } from '@vueuse/core'

interface Actions {
  toggle(): void
  cut(): void
  bringBack(): void
  undo(): void
  redo(): void
  move(step: number, extend: boolean): void
  moveLine?: (down: boolean, extend: boolean) => boolean
  clear(): void
  more?: (event: KeyboardEvent) => boolean // keys of one view; true when it was one
}

/** The keys of an editing page. Keys typed into a field or on a button stay theirs. */
export function useEditKeys(actions: Actions) {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    if (target.closest('input, textarea, select, [contenteditable], .el-message-box, .el-select, .el-dialog, .el-dropdown-menu')) return
    const onButton = target.closest('button, a, [role="button"]') !== null
    const done = press(event, onButton) || (!(onButton && event.key === 'Enter') && (actions.more?.(event) ?? false))
    if (done) event.preventDefault()
  })

  function press(event: KeyboardEvent, onButton: boolean): boolean {
    const command = event.ctrlKey || event.metaKey
    const key = event.key.toLowerCase()
    if (command && key === 'z') {
      if (event.shiftKey) actions.redo()
      else actions.undo()
      return true
    }
    if (command && key === 'y') {
      actions.redo()
      return true
    }
    if (command || event.altKey) return false
    switch (event.key) {
      case ' ':
        if (onButton) return false
        actions.toggle()
        return true
      case 'Delete':
      case 'Backspace':
        actions.cut()
        return true
      case 'b':
        actions.bringBack()
        return true
      case 'ArrowRight':
      case 'ArrowLeft':
        actions.move(event.key === 'ArrowRight' ? 1 : -1, event.shiftKey)
        return true
      case 'ArrowDown':
      case 'ArrowUp':
        return actions.moveLine?.(event.key === 'ArrowDown', event.shiftKey) ?? false
      case 'Escape':
        actions.clear()
        return true
    }
    return false
  }
}
