import type { Schemas } from '@/api/client'
import type { Command } from '@/commands/registry'
import { findKeywords, markWords } from './captions/actions'
import { toMarker } from './kinds/marker/markers'
import { camerasOf } from './kinds/camera/cameras'
import { anotherPicture, pictureAt } from './kinds/broll/another'
import { layCamera } from './kinds/camera/lay'
import { layCard } from './kinds/slide/card'
import { addGap, addWords, split, trim } from './pieces'
import type { SheetPage } from './useSheetPage'

type Offer = Schemas['OfferOut']

/** What is done most with the selected words: its command, and a short name. */
export const SELECTION = {
  cut: 'Cut', 'bring-back': 'Restore', correct: 'Correct', 'to-front': 'To front', broll: 'B-roll', title: 'Title', 'lay-sound-words': 'Sound', 'lay-punch-words': 'Zoom', keywords: 'Highlight',
}

/** All that can be added, in columns: over the selected words, to the whole clip, and what changes its pace and order. */
export function addMenu(offers: Offer[]) {
  const ids = (wanted: (offer: Offer) => boolean) => offers.filter(wanted).map((each) => each.id)
  return [
    { head: 'On the selected words', ids: ['broll', ...ids((each) => each.over !== 'clip' && each.group !== 'time' && each.group !== 'sound'), ...ids((each) => each.over !== 'clip' && each.group === 'sound')] },
    { head: 'Whole clip', ids: [...ids((each) => each.over === 'clip' && each.id !== ALL_JOINS), 'opening-card', 'end-card', 'suggest'] },
    { head: 'Pacing and order', ids: [...ids((each) => each.over !== 'clip' && each.group === 'time'), ALL_JOINS, 'another-picture', 'cover-cuts', 'who-talks', 'punch-at-cuts', 'to-beats', 'gap', 'split', 'trim', 'add'] },
    { head: 'Move', ids: ['to-front', 'hold-words', 'copy-words', 'repeat', 'hooks'] },
  ]
}
const ALL_JOINS = 'lay-transition-clip'

/** What is done with the clip as a whole. */
export const CLIP_MENU = [
  { head: '', ids: ['proof', 'text', 'editions', 'shapes', 'cover', 'post', 'review', 'share', 'markers', 'safe-area', 'beats', 'compare'] },
  { head: '', ids: ['copy-clip', 'copy-dressing', 'delete-clip'] },
]

const WORDS_FIRST = 'Select some words first.'
const NO_BEATS = 'There is no music with a beat in this clip, or no words are selected.'
const NO_CAMERAS = 'This clip has one camera. Bring another one in on the desk of its recording, under Cameras.'
const EMPTY = 'There is nothing in this clip yet.'

/** All that can be done on the page of a clip, but for cutting and going through its words. */
export function sheetCommands(page: SheetPage): Command[] {
  const { sheet, doc, choices, player, moving, laying, clip, dialog, guarded, openDrawer, ask } = page
  const ready = () => !!doc.value
  const onAny = () => page.refs.value !== null
  const onWords = () => page.hasWords.value
  const lasts = () => !!doc.value?.plan.frames
  return [
    { id: 'correct', label: 'Correct the words', keys: ['Enter'], enabled: onWords, why: WORDS_FIRST, run: () => page.rows.value?.edit() },
    { id: 'proof', label: 'Proof', keys: ['Shift+P'], enabled: ready, run: () => openDrawer('proof') },
    { id: 'review', label: 'Review: links and comments…', keys: ['Shift+J'], enabled: ready, run: () => openDrawer('review') },
    { id: 'share', label: 'Share page…', keys: ['Shift+G'], enabled: ready, run: () => openDrawer('share') },
    { id: 'cover', label: 'Cover…', keys: ['Shift+K'], enabled: lasts, why: EMPTY, run: () => openDrawer('cover') },
    { id: 'post', label: 'Text for the post…', keys: ['Shift+B'], enabled: ready, run: () => openDrawer('post') },
    { id: 'export', label: 'Export', keys: ['X'], enabled: ready, run: () => openDrawer('export') },
    { id: 'history', label: 'History', keys: ['H'], enabled: ready, run: () => openDrawer('history') },
    { id: 'to-front', label: 'Move to the start', keys: ['Ctrl+Home'], enabled: onAny, why: WORDS_FIRST, run: () => moving.moveTo('front') },
    { id: 'hold-words', label: 'Move to…', keys: ['Ctrl+X'], enabled: onAny, why: WORDS_FIRST, run: () => moving.moveTo('before') },
    { id: 'copy-words', label: 'Duplicate to…', keys: ['Ctrl+C'], enabled: onAny, why: WORDS_FIRST, run: () => moving.moveTo('copy') },
    { id: 'repeat', label: 'Tease at the start', enabled: onAny, why: WORDS_FIRST, run: () => moving.moveTo('repeat') },
    { id: 'put', label: 'Put here', keys: ['Ctrl+V'], enabled: () => moving.held.value !== null && onAny(), run: () => moving.put(page.chosen.value) },
    ...(moving.held.value ? [{ id: 'leave', label: 'Cancel moving', keys: ['Escape'], run: () => (moving.held.value = null) }] : []),
    { id: 'split', label: 'Split here', keys: ['S'], enabled: ready, run: () => split(page) },
    { id: 'trim', label: 'Trim…', keys: ['T'], enabled: ready, run: () => trim(page) },
    { id: 'add', label: 'Insert words from a recording…', keys: ['A'], enabled: ready, run: () => addWords(page) },
    { id: 'gap', label: 'Insert a gap…', keys: ['G'], enabled: ready, run: () => void addGap(page) },
    ...(choices.value?.offers ?? []).map((offer) => ({
      id: offer.id, label: offer.label, keys: offer.keys, enabled: () => ready() && (offer.over === 'clip' || onAny() || (offer.here && lasts())), why: offer.over === 'clip' ? undefined : WORDS_FIRST, run: () => void laying.lay(offer),
    })),
    ...(doc.value ? camerasOf(doc.value) : []).map(({ number, name }) => ({ id: `camera-${number}`, label: `Camera ${number}: ${name}`, keys: [String(number)], enabled: onAny, why: WORDS_FIRST, run: () => void layCamera(page, number) })),
    { id: 'who-talks', label: 'Cameras: whoever talks', keys: ['Shift+Y'], enabled: () => lasts() && !!doc.value?.cameras.length, why: NO_CAMERAS, run: () => void sheet.direct() },
    { id: 'broll', label: 'B-roll…', keys: ['V'], enabled: onAny, why: WORDS_FIRST, run: () => openDrawer('shelf') },
    { id: 'hooks', label: 'Find a hook to open with…', keys: ['Shift+F'], enabled: lasts, why: EMPTY, run: () => openDrawer('hooks') },
    { id: 'suggest', label: 'Suggest b-roll…', keys: ['Shift+V'], enabled: lasts, why: EMPTY, run: () => openDrawer('suggest') },
    { id: 'another-picture', label: 'Another picture', keys: ['D'], enabled: () => pictureAt(page) !== null, why: 'There is no picture or slide at the playhead.', run: () => void anotherPicture(page) },
    { id: 'text', label: 'The text: say it otherwise…', keys: ['J'], enabled: ready, run: () => openDrawer('text') },
    { id: 'cover-cuts', label: 'Hide jump cuts…', enabled: lasts, why: EMPTY, run: () => openDrawer('cuts') },
    { id: 'opening-card', label: 'Opening card', enabled: ready, run: () => void layCard(page, 'beginning') },
    { id: 'end-card', label: 'Closing card', enabled: ready, run: () => void layCard(page, 'end') },
    { id: 'punch-at-cuts', label: 'Zoom at every other cut', enabled: ready, run: () => void ask({ ask: 'punch_at_cuts', first: page.refs.value?.[0] ?? null, last: page.refs.value?.[1] ?? null }) },
    { id: 'mix', label: 'Sound levels…', keys: ['Shift+A'], enabled: ready, run: () => openDrawer('mix') },
    { id: 'beats', label: page.beats.value ? 'Hide the beats of the music' : 'Show the beats of the music', enabled: () => !!doc.value?.beats.length, why: NO_BEATS, run: () => (page.beats.value = !page.beats.value) },
    { id: 'to-beats', label: 'Move picture edges to the nearest beats', enabled: () => !!doc.value?.beats.length && onAny(), why: NO_BEATS, run: () => void ask({ ask: 'to_beats', layer: null, first: page.refs.value?.[0] ?? null, last: page.refs.value?.[1] ?? null }) },
    { id: 'large', label: page.large.value ? 'Smaller preview' : 'Large preview', keys: ['Z'], enabled: ready, run: () => (page.large.value = !page.large.value) },
    ...(page.large.value ? [{ id: 'not-large', label: 'Smaller preview', keys: ['Escape'], run: () => (page.large.value = false) }] : []),
    { id: 'safe-area', label: guarded.value ? 'Hide the safe area' : 'Show the safe area', keys: ['Shift+S'], enabled: ready, run: () => (guarded.value = !guarded.value) },
    { id: 'compare', label: player.coloured.value ? 'Compare: colours as filmed' : 'Compare: colours as set', keys: ['Y'], run: () => (player.coloured.value = !player.coloured.value) },
    { id: 'next-marker', label: 'Next marker', keys: ['N'], run: () => toMarker(page, 1) },
    { id: 'marker-before', label: 'Previous marker', keys: ['Shift+N'], run: () => toMarker(page, -1) },
    { id: 'sweep', label: 'Sweep (clean up)', enabled: () => ready() && !!choices.value, run: () => void sheet.sweep({ kinds: choices.value!.sweep_kinds, leave: [], instead: [] }) },
    { id: 'markers', label: 'Markers…', keys: ['Shift+M'], enabled: ready, run: () => openDrawer('markers') },
    { id: 'captions', label: 'Captions…', keys: ['Shift+C'], enabled: () => ready() && !!choices.value, run: () => openDrawer('captions') },
    { id: 'keywords', label: 'Highlight in the captions', keys: ['K'], enabled: onWords, why: WORDS_FIRST, run: () => markWords(page) },
    { id: 'find-keywords', label: 'Highlight one word per phrase', enabled: ready, run: () => findKeywords(page) },
    { id: 'editions', label: 'Editions…', keys: ['E'], enabled: ready, run: () => (dialog.value = 'editions') },
    { id: 'shapes', label: 'Shapes side by side…', keys: ['Shift+E'], enabled: ready, run: () => (dialog.value = 'shapes') },
    { id: 'house', label: 'House style…', keys: ['Shift+H'], enabled: ready, run: () => (dialog.value = 'house') },
    { id: 'copy-clip', label: 'Duplicate this clip', enabled: ready, run: () => void clip.copy() },
    { id: 'delete-clip', label: 'Delete clip…', enabled: ready, run: () => void clip.remove() },
    { id: 'copy-dressing', label: 'Copy the styling to other clips…', enabled: ready, run: () => (dialog.value = 'dressing') },
  ]
}
