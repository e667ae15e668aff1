import type { Command } from '@/commands/registry'
import type { DeskPage } from './useDeskPage'

const BACK = 3 // seconds
const FASTEST = 2
const WAITS = 'This waits until all words have been found.'

/** Look for something in the recording. */
export function find({ finding, finder }: DeskPage) {
  if (finding.value) finder.value?.focus()
  finding.value = true
}

function stop({ player }: DeskPage) {
  player.pause()
  player.speed.value = 1
}

function faster({ player }: DeskPage) {
  if (!player.playing.value) player.toggle()
  else player.speed.value = Math.min(player.speed.value < 1 ? 1 : player.speed.value + 0.5, FASTEST)
}

/** All that can be done on the page of a recording, but for cutting and going through its words. */
export function deskCommands(page: DeskPage): Command[] {
  const { doc, player, selected, houses, clips, history } = page
  const can = () => doc.value !== null
  const onWords = () => can() && selected.value.length > 0
  return [
    { id: 'find', label: 'Find', keys: ['Ctrl+F', 'Ctrl+G'], enabled: can, run: () => find(page) },
    { id: 'correct', label: 'Correct', keys: ['Enter'], enabled: can, run: () => page.words.value?.edit() },
    { id: 'check-next', label: 'Next word to check', keys: ['D'], enabled: can, run: () => page.doubt(1) },
    { id: 'check-before', label: 'Previous word to check', keys: ['Shift+D'], enabled: can, run: () => page.doubt(-1) },
    { id: 'back', label: 'Back 3 s', keys: ['J'], run: () => player.seekSource(Math.max(player.source.value - BACK, 0)) },
    { id: 'stop', label: 'Pause', keys: ['K'], run: () => stop(page) },
    { id: 'faster', label: 'Play, and faster', keys: ['L'], run: () => faster(page) },
    { id: 'make-whole-clip', label: 'Clip of the whole recording', enabled: can, why: WAITS, run: () => void clips.clipOf(page.transcript.data.value?.words ?? []) },
    { id: 'make-clip', label: 'Make clip', keys: ['M'], enabled: onWords, why: 'Select a passage first.', run: () => void clips.makeClip() },
    ...houses.value.map(({ key, name }) => ({ id: `make-clip-${key}`, label: `Make clip in the style “${name}”`, enabled: onWords, run: () => void clips.makeClip(key) })),
    { id: 'keep-part', label: 'Save this part to the Shelf…', keys: ['Shift+M'], enabled: onWords, run: () => void clips.keepPart() },
    { id: 'history', label: 'History', keys: ['H'], enabled: can, run: () => (history.value = !history.value) },
    ...'123456789'.split('').map((digit) => ({ id: `speaker-${digit}`, label: `Speaker ${digit}`, keys: [digit], enabled: can, run: () => page.give(`S${digit}`) })),
  ]
}
