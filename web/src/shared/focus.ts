const FIELDS = 'input:not([type="hidden"], [type="color"], [type="file"], :disabled), textarea:not(:disabled), select:not(:disabled)'

/** Put the focus into the first field of a panel, what is written there selected; without one, onto its heading. */
export function focusFirst(panel: HTMLElement | null) {
  const field = panel?.querySelector<HTMLElement>(FIELDS) ?? panel?.querySelector<HTMLElement>('h2[tabindex]')
  field?.focus()
  if (field instanceof HTMLTextAreaElement || (field instanceof HTMLInputElement && field.type === 'text')) field.select()
}
