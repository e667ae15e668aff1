import { effectScope, ref } from 'vue'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { closing, keyOf, press, takeKeys, useCommands, wroteIn, type Command } from './registry'

const plain = { ctrlKey: false, metaKey: false, altKey: false, shiftKey: false }
const scope = effectScope()
afterEach(() => scope.stop())

/** A key pressed where `inside` says which selectors match the focused element. */
function pressed(key: string, inside: RegExp | null = null, more = {}) {
  const event = {
    ...plain, ...more, key, isComposing: false, defaultPrevented: false, preventDefault: vi.fn(),
    target: { closest: (selector: string) => (inside?.test(selector) ? {} : null) },
  }
  return { event, done: press(event as unknown as KeyboardEvent) }
}

describe('keys', () => {
  it('are written as people read them', () => {
    expect(keyOf({ ...plain, key: 'z', ctrlKey: true, shiftKey: true })).toBe('Ctrl+Shift+Z')
    expect(keyOf({ ...plain, key: ' ' })).toBe('Space')
    expect(keyOf({ ...plain, key: '?', shiftKey: true })).toBe('?')
    expect(keyOf({ ...plain, key: 'ArrowLeft', shiftKey: true })).toBe('Shift+Left')
  })
})

describe('the dispatcher', () => {
  function offer(...commands: Command[]) {
    const inner = effectScope()
    inner.run(() => useCommands(() => commands))
    return inner
  }

  it('runs the command of a key, and not in fields or while it makes no sense', () => {
    const run = vi.fn()
    const able = ref(true)
    const inner = offer({ id: 'cut', label: 'Cut', keys: ['Delete'], enabled: () => able.value, run })
    expect(pressed('Delete').done).toBe(true)
    expect(run).toHaveBeenCalledTimes(1)
    expect(pressed('Delete', /input/).done).toBe(false)
    able.value = false
    expect(pressed('Delete').done).toBe(true)
    expect(run).toHaveBeenCalledTimes(1)
    inner.stop()
    expect(pressed('Delete').done).toBe(false)
  })

  it('undoes for the page in a field in which nothing was written yet, but not in a dialog', () => {
    const run = vi.fn()
    const inner = offer({ id: 'undo', label: 'Undo', keys: ['Ctrl+Z'], run }, { id: 'cut', label: 'Cut', keys: ['Delete'], run })
    const field = /^input:not/
    expect([pressed('z', field, { ctrlKey: true }).done, pressed('Delete', field).done]).toEqual([true, false])
    const { event } = pressed('Delete', field)
    wroteIn(event.target as unknown as EventTarget)
    expect(press({ ...event, key: 'z', ctrlKey: true } as unknown as KeyboardEvent)).toBe(false)
    wroteIn(null)
    expect(pressed('z', /input:not|el-dialog/, { ctrlKey: true }).done).toBe(false)
    expect(run).toHaveBeenCalledTimes(1)
    inner.stop()
  })

  it('closes a panel also from within its fields', () => {
    const close = vi.fn()
    const inner = offer(...closing('close-panel', close, '[data-panel]'))
    expect([pressed('Escape').done, pressed('Escape', /input:not|data-panel/).done, pressed('Escape', /^input:not/).done]).toEqual([true, true, false])
    expect(close).toHaveBeenCalledTimes(2)
    inner.stop()
  })

  it('leaves to a slider what moves it, and no other key', () => {
    const run = vi.fn()
    const slider = /^\[type="range"\]$/
    const inner = offer({ id: 'word', label: 'The word before', keys: ['Left', 'Home'], run }, { id: 'close', label: 'Close', keys: ['Escape'], run })
    expect([pressed('ArrowLeft', slider).done, pressed('Home', slider).done]).toEqual([false, false])
    expect(pressed('Escape', slider).done).toBe(true)
    expect(run).toHaveBeenCalledTimes(1)
    inner.stop()
  })

  it('gives all keys to what is coming, and runs nothing meanwhile', () => {
    const run = vi.fn()
    const taken: string[] = []
    const inner = offer({ id: 'marker', label: 'Marker', keys: ['M'], run })
    takeKeys((event) => taken.push(event.key))
    expect(pressed('m').done).toBe(true)
    takeKeys(null)
    expect([taken, run.mock.calls.length]).toEqual([['m'], 0])
    pressed('m')
    expect(run).toHaveBeenCalledTimes(1)
    inner.stop()
  })

  it('leaves Space and Enter to the button that has the focus', () => {
    const run = vi.fn()
    const inner = offer({ id: 'play', label: 'Play', keys: ['Space'], run })
    expect(pressed(' ', /^button/).done).toBe(false)
    expect(pressed(' ').done).toBe(true)
    expect(run).toHaveBeenCalledTimes(1)
    inner.stop()
  })

  it('gives a key to the place that has the focus, also in a field of it', () => {
    const page = vi.fn()
    const bar = vi.fn()
    const inner = offer(
      { id: 'clear', label: 'Clear', keys: ['Escape'], run: page },
      { id: 'close', label: 'Close', keys: ['Escape'], where: '.find', run: bar },
    )
    pressed('Escape', /input|\.find/)
    expect([bar.mock.calls.length, page.mock.calls.length]).toEqual([1, 0])
    pressed('Escape')
    expect([bar.mock.calls.length, page.mock.calls.length]).toEqual([1, 1])
    inner.stop()
  })

  it('gives a key to what was offered last', () => {
    const below = vi.fn()
    const above = vi.fn()
    const page = offer({ id: 'clear', label: 'Clear', keys: ['Escape'], run: below })
    const drawer = offer({ id: 'close', label: 'Close', keys: ['Escape'], run: above })
    pressed('Escape')
    drawer.stop()
    pressed('Escape')
    expect([above.mock.calls.length, below.mock.calls.length]).toEqual([1, 1])
    page.stop()
  })
})
