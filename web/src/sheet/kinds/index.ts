import type { Component } from 'vue'

/**
 * What a kind of content has on the page, found by its folder: `Chooser` stands above its settings (what it shows has to be
 * chosen first), `Panel` below them, and `Handle` on the stage while it is chosen. All else of a kind comes from the core.
 */
type Found = Record<string, { default: Component }>
const byKind = (found: Found) => Object.fromEntries(Object.entries(found).map(([path, module]) => [path.split('/')[1]!, module.default]))

export const CHOOSERS = byKind(import.meta.glob('./*/Chooser.{vue,ts}', { eager: true }) as Found)
export const PANELS = byKind(import.meta.glob('./*/Panel.{vue,ts}', { eager: true }) as Found)
export const HANDLES = byKind(import.meta.glob('./*/Handle.{vue,ts}', { eager: true }) as Found)
