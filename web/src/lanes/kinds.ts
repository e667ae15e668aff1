import type { Component } from 'vue'
import BrollExtra from './BrollExtra.vue'
import FramingExtra from './FramingExtra.vue'
import FramingHandle from './FramingHandle.vue'
import LookExtra from './LookExtra.vue'
import StickerChooser from './StickerChooser.vue'
import StickerHandle from './StickerHandle.vue'
import TitleExtra from './TitleExtra.vue'
import type { Content } from '@/composables/useDocument'

export type Kind = Content['kind']

/**
 * What a person can lay over words, as the page offers it: by menu and by key. All else of a kind (its fields, limits and
 * defaults, the lane it stands in) comes from the core. A new kind is a line here.
 */
export interface Offer {
  kind: Kind
  label: string
  keys: string[]
  over: 'words' | 'clip' // the selected words, or the whole clip
  content?: Partial<Content> // what is not as the core would have it
}

/** What is shown on the stage while a thing of a kind is chosen, to move it there. */
export const HANDLES: Partial<Record<Kind, Component>> = { framing: FramingHandle, punch: FramingHandle, sticker: StickerHandle }

/** What stands above the settings of a kind: what it shows has to be chosen first. */
export const CHOOSERS: Partial<Record<Kind, Component>> = { logo: StickerChooser, sticker: StickerChooser }

/** What stands below the settings of a kind, besides them. */
export const EXTRAS: Partial<Record<Kind, Component>> = { broll: BrollExtra, framing: FramingExtra, look: LookExtra, title: TitleExtra }

export const OFFERS: Offer[] = [
  { kind: 'framing', label: 'Framing: keep the speaker in view', keys: ['F'], over: 'words', content: { kind: 'framing', mode: 'speaker' } },
  { kind: 'punch', label: 'Punch in', keys: ['P'], over: 'words', content: { kind: 'punch', toward: 'the face' } },
  { kind: 'look', label: 'Colour', keys: ['L'], over: 'words' },
  { kind: 'speed', label: 'Another speed', keys: ['R'], over: 'words' },
  { kind: 'hold', label: 'Hold the frame', keys: ['O'], over: 'words' },
  { kind: 'join', label: 'Crossfade into these words', keys: ['C'], over: 'words' },
  { kind: 'wording', label: 'Caption words: other text, colour, size', keys: ['W'], over: 'words' },
  { kind: 'aside', label: 'Caption where nobody speaks', keys: [], over: 'words' },
  { kind: 'sticker', label: 'Sticker', keys: ['U'], over: 'words' },
  { kind: 'marker', label: 'Marker', keys: ['M'], over: 'words' },
  { kind: 'join', label: 'All joins', keys: [], over: 'clip' },
  { kind: 'framing', label: 'Framing of the whole clip', keys: [], over: 'clip', content: { kind: 'framing', mode: 'speaker' } },
  { kind: 'look', label: 'Colour of the whole clip', keys: ['Shift+L'], over: 'clip' },
  { kind: 'logo', label: 'Logo', keys: [], over: 'clip' },
  { kind: 'progress', label: 'Progress bar', keys: [], over: 'clip' },
  { kind: 'ends', label: 'Fades at the ends', keys: [], over: 'clip' },
]
