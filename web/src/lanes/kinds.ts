import type { Component } from 'vue'
import AlignExtra from './AlignExtra.vue'
import BrollExtra from './BrollExtra.vue'
import FramingExtra from './FramingExtra.vue'
import FramingHandle from './FramingHandle.vue'
import LookExtra from './LookExtra.vue'
import SlideExtra from './SlideExtra.vue'
import SoundExtra from './SoundExtra.vue'
import StickerChooser from './StickerChooser.vue'
import StickerHandle from './StickerHandle.vue'
import TitleExtra from './TitleExtra.vue'
import TitleHandle from './TitleHandle.vue'
import type { Content } from '@/composables/useDocument'

export type Kind = Content['kind']

/** Groups of the menu. */
export type Group = 'screen' | 'picture' | 'sound' | 'time' | 'words'

/**
 * What a person can lay over words, as the page offers it: by menu and by key. All else of a kind (its fields, limits and
 * defaults, the lane it stands in) comes from the core. A new kind is a line here.
 */
export interface Offer {
  kind: Kind
  group: Group // of the menu
  label: string
  id?: string // of its command, where its kind is offered twice
  keys: string[]
  over: 'words' | 'clip' // the selected words, or the whole clip
  preset?: string // of the core, that it begins from
  content?: Partial<Content> // what is not as the core would have it
}

/** The command that lays what is offered. */
export const commandOf = (offer: Offer) => offer.id ?? `lay-${offer.kind}-${offer.over}`

/** What is shown on the stage while a thing of a kind is chosen, to move it there. */
export const HANDLES: Partial<Record<Kind, Component>> = { framing: FramingHandle, punch: FramingHandle, sticker: StickerHandle, title: TitleHandle, slide: TitleHandle }

/** What stands above the settings of a kind: what it shows has to be chosen first. */
export const CHOOSERS: Partial<Record<Kind, Component>> = { logo: StickerChooser, sticker: StickerChooser }

/** What stands below the settings of a kind, besides them. */
export const EXTRAS: Partial<Record<Kind, Component>> = { broll: BrollExtra, framing: FramingExtra, look: LookExtra, slide: SlideExtra, sound: SoundExtra, sticker: AlignExtra, title: TitleExtra }

export const OFFERS: Offer[] = [
  { kind: 'framing', group: 'picture', label: 'Framing: keep the speaker in view', keys: ['F'], over: 'words', content: { kind: 'framing', mode: 'speaker' } },
  { kind: 'punch', group: 'picture', label: 'Punch in', keys: ['P'], over: 'words', content: { kind: 'punch', toward: 'the face' } },
  { kind: 'look', group: 'picture', label: 'Colour', keys: ['L'], over: 'words' },
  { kind: 'look', group: 'picture', label: 'Colour of pictures over words', id: 'look-over', keys: [], over: 'words', content: { kind: 'look', of: 'pictures over words' } },
  { kind: 'sound', group: 'sound', label: 'Sound over the selected words', keys: ['Q'], over: 'words', preset: 'Once, to its end' },
  { kind: 'sound', group: 'sound', label: 'Music under the selected words', id: 'music-words', keys: ['Shift+Q'], over: 'words', preset: 'Under the speech' },
  { kind: 'sound', group: 'sound', label: 'Music under the whole clip', keys: [], over: 'clip', preset: 'Under the speech' },
  { kind: 'waveform', group: 'picture', label: 'Level bars, or a waveform', keys: [], over: 'clip' },
  { kind: 'speed', group: 'time', label: 'Another speed', keys: ['R'], over: 'words' },
  { kind: 'hold', group: 'time', label: 'Hold the frame', keys: ['O'], over: 'words' },
  { kind: 'join', group: 'time', label: 'Crossfade into these words', keys: ['C'], over: 'words' },
  { kind: 'wording', group: 'words', label: 'Caption words: other text, colour, size', keys: ['W'], over: 'words' },
  { kind: 'aside', group: 'words', label: 'Caption where nobody speaks', keys: [], over: 'words' },
  { kind: 'sticker', group: 'screen', label: 'Sticker', keys: ['U'], over: 'words' },
  { kind: 'marker', group: 'words', label: 'Marker', keys: ['M'], over: 'words' },
  { kind: 'join', group: 'time', label: 'All joins', keys: [], over: 'clip' },
  { kind: 'framing', group: 'picture', label: 'Framing of the whole clip', keys: [], over: 'clip', content: { kind: 'framing', mode: 'speaker' } },
  { kind: 'look', group: 'picture', label: 'Colour of the whole clip', keys: ['Shift+L'], over: 'clip' },
  { kind: 'logo', group: 'screen', label: 'Logo', keys: [], over: 'clip' },
  { kind: 'progress', group: 'screen', label: 'Progress bar', keys: [], over: 'clip' },
  { kind: 'ends', group: 'time', label: 'Fades at the ends', keys: [], over: 'clip' },
]
