import type { Schemas } from '@/api/client'
import type { Command } from '@/commands/registry'
import { findKeywords, markWords } from './captions/actions'
import { toMarker } from './kinds/marker/markers'
import { layCard } from './kinds/slide/card'
import { addGap, addWords, split, trim } from './pieces'
import type { SheetPage } from './useSheetPage'

type Group = Schemas['OfferOut']['group']

/** What stands in the menu of what is laid before that which the core offers. */
const BESIDES: Record<Group, string[]> = { screen: ['broll', 'suggest'], picture: ['punch-at-cuts', 'cover-cuts'], sound: [], time: [], words: ['markers'] }

/** The menu of what is laid: the ids of its commands, in groups. */
export const layingMenu = (offers: Schemas['OfferOut'][]) =>
  (Object.keys(BESIDES) as Group[]).map((group) => [...BESIDES[group], ...offers.filter((each) => each.group === group).map((each) => each.id)])

/** All that can be done on the page of a clip, but for cutting and going through its words. */
export function sheetCommands(page: SheetPage): Command[] {
  const { sheet, doc, choices, player, moving, laying, clip, dialog, guarded, openDrawer, ask } = page
  const ready = () => !!doc.value
  const onAny = () => page.refs.value !== null
  const onWords = () => page.hasWords.value
  const lasts = () => !!doc.value?.plan.frames
  return [
    { id: 'correct', label: 'Correct the selected words', keys: ['Enter'], enabled: onWords, run: () => page.rows.value?.edit() },
    { id: 'export', label: 'Export', keys: ['X'], enabled: ready, run: () => openDrawer('export') },
    { id: 'history', label: 'History', keys: ['H'], enabled: ready, run: () => openDrawer('history') },
    { id: 'to-front', label: 'Move to front', keys: ['Ctrl+Home'], enabled: onAny, run: () => moving.moveTo('front') },
    { id: 'hold-words', label: 'Move before…', keys: ['Ctrl+X'], enabled: onAny, run: () => moving.moveTo('before') },
    { id: 'copy-words', label: 'Copy before…', keys: ['Ctrl+C'], enabled: onAny, run: () => moving.moveTo('copy') },
    { id: 'repeat', label: 'Repeat at front', enabled: onAny, run: () => moving.moveTo('repeat') },
    { id: 'put', label: 'Put here what is held', keys: ['Ctrl+V'], enabled: () => moving.held.value !== null && onAny(), run: () => moving.put(page.chosen.value) },
    ...(moving.held.value ? [{ id: 'leave', label: 'Leave it where it is', keys: ['Escape'], run: () => (moving.held.value = null) }] : []),
    { id: 'split', label: 'Split before the selected word, or at the playhead', keys: ['S'], enabled: ready, run: () => split(page) },
    { id: 'trim', label: 'Trim this piece', keys: ['T'], enabled: ready, run: () => trim(page) },
    { id: 'add', label: 'Add from a recording…', keys: ['A'], enabled: ready, run: () => addWords(page) },
    { id: 'gap', label: 'Add a gap…', keys: ['G'], enabled: ready, run: () => void addGap(page) },
    ...(choices.value?.offers ?? []).map((offer) => ({
      id: offer.id, label: offer.label, keys: offer.keys, enabled: () => ready() && (offer.over === 'clip' || onAny()), run: () => void laying.lay(offer),
    })),
    { id: 'broll', label: 'Picture over the selected words…', keys: ['V'], enabled: onAny, run: () => openDrawer('shelf') },
    { id: 'hooks', label: 'Hook first: a line that opens the clip…', keys: ['Shift+F'], enabled: lasts, run: () => openDrawer('hooks') },
    { id: 'suggest', label: 'Suggest pictures for what is said…', keys: ['Shift+V'], enabled: lasts, run: () => openDrawer('suggest') },
    { id: 'cover-cuts', label: 'Cover the cuts…', enabled: lasts, run: () => openDrawer('cuts') },
    { id: 'opening-card', label: 'A card at the beginning', enabled: ready, run: () => void layCard(page, 'beginning') },
    { id: 'end-card', label: 'A card at the end', enabled: ready, run: () => void layCard(page, 'end') },
    { id: 'punch-at-cuts', label: 'Punch in at every other cut', enabled: ready, run: () => void ask({ ask: 'punch_at_cuts', first: page.refs.value?.[0] ?? null, last: page.refs.value?.[1] ?? null }) },
    { id: 'safe-area', label: guarded.value ? 'Hide the safe area' : 'Show the safe area of the outlet', keys: ['Shift+S'], enabled: ready, run: () => (guarded.value = !guarded.value) },
    { id: 'compare', label: player.coloured.value ? 'Show colours as they were filmed' : 'Show colours as they are set', keys: ['Y'], run: () => (player.coloured.value = !player.coloured.value) },
    { id: 'next-marker', label: 'The next marker', keys: ['N'], run: () => toMarker(page, 1) },
    { id: 'marker-before', label: 'The marker before', keys: ['Shift+N'], run: () => toMarker(page, -1) },
    { id: 'sweep', label: 'Sweep', enabled: () => ready() && !!choices.value, run: () => void sheet.sweep({ kinds: choices.value!.sweep_kinds, leave: [], instead: [] }) },
    { id: 'markers', label: 'All markers', keys: ['Shift+M'], enabled: ready, run: () => openDrawer('markers') },
    { id: 'captions', label: 'Captions…', keys: ['Shift+C'], enabled: () => ready() && !!choices.value, run: () => openDrawer('captions') },
    { id: 'keywords', label: 'Mark the selected words in the captions', keys: ['K'], enabled: onWords, run: () => markWords(page) },
    { id: 'find-keywords', label: 'Mark one word in each phrase', enabled: ready, run: () => findKeywords(page) },
    { id: 'editions', label: 'Editions…', keys: ['E'], enabled: ready, run: () => (dialog.value = 'editions') },
    { id: 'shapes', label: 'Shapes side by side…', keys: ['Shift+E'], enabled: ready, run: () => (dialog.value = 'shapes') },
    { id: 'house', label: 'House style…', keys: ['Shift+H'], enabled: ready, run: () => (dialog.value = 'house') },
    { id: 'copy-clip', label: 'Copy this clip', enabled: ready, run: () => void clip.copy() },
    { id: 'delete-clip', label: 'Delete clip', enabled: ready, run: () => void clip.remove() },
    { id: 'copy-dressing', label: 'Copy the dressing onto other clips…', enabled: ready, run: () => (dialog.value = 'dressing') },
  ]
}
