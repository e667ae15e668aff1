import type { Command } from '@/commands/registry'
import type { DeskPage } from './useDeskPage'

const BACK = 3 // seconds
const FASTEST = 2

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
    { id: 'check-next', label: 'The next word to check', keys: ['D'], enabled: can, run: () => page.doubt(1) },
    { id: 'check-before', label: 'The word to check before', keys: ['Shift+D'], enabled: can, run: () => page.doubt(-1) },
    { id: 'back', label: 'Three seconds back', keys: ['J'], run: () => player.seekSource(Math.max(player.source.value - BACK, 0)) },
    { id: 'stop', label: 'Pause', keys: ['K'], run: () => stop(page) },
    { id: 'faster', label: 'Play, and faster', keys: ['L'], run: () => faster(page) },
    { id: 'make-clip', label: 'Make clip', keys: ['M'], enabled: onWords, run: () => void clips.makeClip() },
    ...houses.value.map(({ key, name }) => ({ id: `make-clip-${key}`, label: `Make clip, dressed in “${name}”`, enabled: onWords, run: () => void clips.makeClip(key) })),
    { id: 'keep-part', label: 'Keep these words\' part on the Shelf…', keys: ['Shift+M'], enabled: onWords, run: () => void clips.keepPart() },
    { id: 'history', label: 'History', keys: ['H'], enabled: can, run: () => (history.value = !history.value) },
    ...'123456789'.split('').map((digit) => ({ id: `speaker-${digit}`, label: `Speaker ${digit}`, keys: [digit], enabled: can, run: () => page.give(`S${digit}`) })),
  ]
}
