const FIELDS = 'input:not([type="hidden"], [type="color"], [type="file"], :disabled), textarea:not(:disabled), select:not(:disabled)'

/** Put the focus into the first field of a panel, what is written there selected; without one, onto its heading. */
export function focusFirst(panel: HTMLElement | null) {
  const field = panel?.querySelector<HTMLElement>(FIELDS) ?? panel?.querySelector<HTMLElement>('h2[tabindex]')
  field?.focus()
  if (field instanceof HTMLTextAreaElement || (field instanceof HTMLInputElement && field.type === 'text')) field.select()
}

const PANELS = 'section.drawer, .el-dialog, .el-message-box, aside, [role="region"]:not(#menus), [role="tabpanel"], main'

/**
 * What has the focus may go, or be switched off, by what it did: then the focus goes to the panel it was in (or to the page
 * where that has gone, too), never to nowhere. Installed once, by the application.
 */
export function keepFocus() {
  let last: { element: HTMLElement; panels: HTMLElement[] } | null = null
  document.addEventListener('focusin', ({ target }) => {
    const panels: HTMLElement[] = []
    for (let at = (target as HTMLElement).closest<HTMLElement>(PANELS); at; at = at.parentElement?.closest<HTMLElement>(PANELS) ?? null) panels.push(at)
    last = { element: target as HTMLElement, panels }
  })
  new MutationObserver(() => {
    if (!last || document.activeElement !== document.body) return
    const { element, panels } = last
    if (element.isConnected && !element.matches(':disabled') && element.checkVisibility()) return
    const panel = panels.find((each) => each.isConnected && each.checkVisibility()) ?? document.querySelector<HTMLElement>('main')
    if (panel) focusPanel(panel)
  }).observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] })
}

function focusPanel(panel: HTMLElement) {
  const place = panel.querySelector<HTMLElement>('h2[tabindex], .rows, [data-focus-home]') ?? panel
  if (place.tabIndex < 0 && !place.hasAttribute('tabindex')) place.tabIndex = -1
  place.focus({ preventScroll: true })
}
