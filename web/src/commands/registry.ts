import { onScopeDispose, shallowReactive, watchEffect } from 'vue'

/**
 * Something a person can do, by button and by key. `keys` are written as people read them ("Ctrl+Z", "Delete",
 * "B"); a key with Shift in it is another key. `enabled` says whether it makes sense now.
 */
export interface Command {
  id: string
  label: string
  keys?: string[]
  where?: string // a selector: only while the focus is inside; such a command holds in fields too
  enabled?: () => boolean
  why?: string // what has to be done first, where it does not make sense now
  run: (event: KeyboardEvent | MouseEvent) => void
}

/** Where keys stay the control's own: fields, lists that open, dialogs (but not one that is just closing). */
const OWN_KEYS = 'input:not([type="radio"], [type="checkbox"], [type="range"]), textarea, select, [contenteditable], [data-own-keys], .el-message-box, .el-select, .el-overlay:not(.dialog-fade-leave-active) .el-dialog, .el-dropdown-menu'
const CHOICE = '[type="radio"], [type="checkbox"]' // arrows and Space are their own, all else is the page's
const SLIDER = '[type="range"]' // likewise what moves it
const MOVES = /^(Arrow|Page|Home$|End$)/
const BUTTON = 'button, a, [role="button"], [role="tab"]'
const NAMES: Record<string, string> = { ' ': 'Space', ArrowLeft: 'Left', ArrowRight: 'Right', ArrowUp: 'Up', ArrowDown: 'Down' }

const registered = shallowReactive(new Map<string, Command>())

/** The command of an id, while it is offered. */
export function find(id: string): Command | undefined {
  return registered.get(id)
}

/** All commands that are offered now: those of the page, not those of a field. */
export function offered(): Command[] {
  return [...registered.values()].filter((command) => !command.where)
}

/** Offer commands as long as the component that calls this is there; what is offered later wins a key. */
export function useCommands(commands: () => Command[]) {
  let mine: string[] = []
  const clear = () => mine.forEach((id) => registered.delete(id))
  watchEffect(() => {
    const now = commands()
    clear()
    mine = now.map((command) => command.id)
    for (const command of now) registered.set(command.id, command)
  })
  onScopeDispose(clear)
}

/** The key of an event as people read it: "Ctrl+Shift+Z". */
export function keyOf(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
  const key = NAMES[event.key] ?? (event.key.length === 1 ? event.key.toUpperCase() : event.key)
  const shift = event.shiftKey && (event.key.length > 1 || /[a-z]/i.test(event.key))
  return [(event.ctrlKey || event.metaKey) && 'Ctrl', event.altKey && 'Alt', shift && 'Shift', key].filter(Boolean).join('+')
}

/** The command of a key where the focus is: that of the place itself first, then that of the page. */
function forKey(event: KeyboardEvent, target: HTMLElement): Command | undefined {
  const key = keyOf(event)
  const all = [...registered.values()].reverse().filter((command) => command.keys?.includes(key))
  const own = all.find((command) => command.where && target.closest?.(command.where))
  // What has just gone may have the focus for a moment still: it has no keys any more.
  const keeper = target.closest?.(OWN_KEYS)
  if (own) return own
  const undoes = UNDOING.includes(key) && target !== written && !target.closest?.('.el-dialog, .el-message-box')
  if (keeper && keeper.checkVisibility?.() !== false && !undoes) return undefined
  return all.find((command) => !command.where)
}

/** Escape closes a panel, also from within its fields (`where`). */
export const closing = (id: string, close: () => void, where: string): Command[] => [
  { id, label: 'Close', keys: ['Escape'], run: close },
  { id: `${id}-field`, label: 'Close', keys: ['Escape'], where, run: close },
]

/** What a field undoes itself once something was written in it; before that these keys are the page's there, too. */
const UNDOING = ['Ctrl+Z', 'Ctrl+Shift+Z', 'Ctrl+Y']
let written: EventTarget | null = null // the field that has been written in since it has the focus

/** Note that a field is written in, or (null) that another one has the focus. */
export function wroteIn(field: EventTarget | null) {
  written = field
}

let taker: ((event: KeyboardEvent) => void) | null = null

/** Give all keys to one place for a moment, while what is to have them is not there yet; null ends it. */
export function takeKeys(by: ((event: KeyboardEvent) => void) | null) {
  taker = by
}

/** Run the command of a key, if there is one and the key is not the control's own; whether it was. */
export function press(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement
  if (event.isComposing || event.defaultPrevented) return false
  if (taker) {
    taker(event)
    event.preventDefault()
    return true
  }
  if (target.closest?.(BUTTON) && (event.key === ' ' || event.key === 'Enter')) return false
  if (target.closest?.(CHOICE) && (event.key === ' ' || event.key.startsWith('Arrow'))) return false
  if (target.closest?.(SLIDER) && MOVES.test(event.key)) return false
  const command = forKey(event, target)
  if (!command) return false
  event.preventDefault()
  if (command.enabled?.() ?? true) command.run(event)
  return true
}

/** The one listener for keys; installed once, by the application. */
export function listen() {
  window.addEventListener('keydown', press)
  window.addEventListener('input', (event) => wroteIn(event.target))
  window.addEventListener('focusin', () => wroteIn(null))
}
