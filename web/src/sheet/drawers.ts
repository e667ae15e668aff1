import { h, type VNode } from 'vue'
import { keepShapes } from '@/delivery/shapes'
import ExportDrawer from '@/delivery/ExportDrawer.vue'
import CoverDrawer from '@/delivery/CoverDrawer.vue'
import { takeInTimeline } from '@/delivery/timeline'
import PostDrawer from '@/delivery/PostDrawer.vue'
import ShapesDialog from '@/delivery/ShapesDialog.vue'
import ProofDrawer from '@/proof/ProofDrawer.vue'
import HistoryDrawer from '@/document/HistoryDrawer.vue'
import type { Doc } from '@/document/useDocument'
import type { Choices } from '@/shared/useChoices'
import ReviewDrawer from '@/review/ReviewDrawer.vue'
import ShareDrawer from '@/share/ShareDrawer.vue'
import ShelfDrawer from '@/shelf/ShelfDrawer.vue'
import AddDrawer from './AddDrawer.vue'
import CaptionsDrawer from './captions/CaptionsDrawer.vue'
import { chooseStyle, findKeywords } from './captions/actions'
import DressingDialog from './DressingDialog.vue'
import EditionsDialog from './EditionsDialog.vue'
import HookDrawer from './HookDrawer.vue'
import HouseDialog from './HouseDialog.vue'
import { layBroll, shownIn } from './kinds/broll/lay'
import { goToWord, markAt } from './kinds/marker/markers'
import MarkersDrawer from './kinds/marker/MarkersDrawer.vue'
import { layPunch } from './kinds/punch/lay'
import { layWording, writeWording } from './kinds/wording/lay'
import LayerDrawer from './LayerDrawer.vue'
import MixDrawer from './MixDrawer.vue'
import SuggestDrawer from './SuggestDrawer.vue'
import TextDrawer from './TextDrawer.vue'
import TrimDrawer from './TrimDrawer.vue'
import type { SheetPage } from './useSheetPage'

export type Drawer = 'proof' | 'post' | 'cover' | 'review' | 'share' | 'export' | 'history' | 'layer' | 'trim' | 'add' | 'markers' | 'captions' | 'shelf' | 'suggest' | 'cuts' | 'hooks' | 'mix' | 'text'
export type Dialog = 'editions' | 'dressing' | 'house' | 'shapes'

/** The page of a clip, and what is there once it has been read. */
interface Open { page: SheetPage; doc: Doc; choices: Choices; time: number }

const suggestions = ({ page, doc }: Open, cuts: boolean) =>
  h(SuggestDrawer, {
    key: String(cuts), doc, cuts, onClose: page.close, onGo: page.player.show,
    onShow: (media, first, last) => void layBroll(page.laying, media, [first, last]),
    onCloser: (first, last) => void layPunch(page.laying, [first, last]),
  })

/** What stands beside the rows, by the name it is opened with. */
const DRAWERS: Record<Drawer, (open: Open) => VNode> = {
  export: ({ page, doc, time }) => h(ExportDrawer, { doc, time, faults: page.proof.open.value, onProof: () => page.openDrawer('proof'), onPost: () => page.openDrawer('post'), onCover: () => page.openDrawer('cover'), onReview: () => page.openDrawer('review'), onShare: () => page.openDrawer('share'), onTimeline: (file) => void takeInTimeline(page.sheet, file), onMark: (word, note) => void markAt(page, word, note), onGo: (word) => goToWord(page, word), onClose: page.close }),
  review: ({ page, doc }) => h(ReviewDrawer, { key: doc.id, doc, comments: page.comments, onGo: page.player.show, onClose: page.close }),
  share: ({ page, doc }) => h(ShareDrawer, { key: doc.id, doc, onClose: page.close }),
  cover: ({ page, doc, choices, time }) => h(CoverDrawer, { key: doc.id, doc, choices, time, onGo: page.player.show, onClose: page.close }),
  post: ({ page, doc }) => h(PostDrawer, { key: doc.id, doc, onClose: page.close }),
  proof: ({ page, doc, choices }) =>
    h(ProofDrawer, {
      key: doc.id, doc, choices, proof: page.proof, onClose: page.close, onGo: page.player.show, onHear: (start, end) => void page.playPart(start, end),
      onEdit: page.edit, onCorrect: (correction, recording) => void page.sheet.correct(correction, recording), onOpenLayer: page.laying.openLayer,
    }),
  history: ({ page, doc }) => h(HistoryDrawer, { doc, onBack: page.sheet.goBack, onClose: page.close }),
  layer: ({ page, doc, choices, time }) => {
    const { layer, own, drawn, change, tryOut, nudge, layOver, setApart, remove } = page.laying
    return h(LayerDrawer, {
      key: layer.value, doc, choices, time, layer: layer.value, content: own.value?.content, saved: drawn.value?.content, hasWords: !!page.refs.value,
      onChange: (content) => void change(content), onTry: tryOut, onNudge: nudge, onOver: layOver, onEdit: page.edit, onAsk: (asked) => void page.ask(asked), onApart: setApart, onRemove: remove, onClose: page.close,
    })
  },
  trim: ({ page, doc }) => {
    const { trimmed, hearEdge } = page.trimming
    const remove = () => page.edit([{ type: 'remove_piece', piece: trimmed.value }]).then(page.close)
    return h(TrimDrawer, { doc, piece: trimmed.value, onAsk: page.ask, onHear: hearEdge, onRemove: remove, onClose: page.close })
  },
  add: ({ page, choices }) => {
    const before = page.before.value
    return h(AddDrawer, {
      class: 'wider', doubtful: choices.doubtful, place: before ? 'before the selected word' : 'at the end', onClose: page.close,
      onAdd: (recording, from, to) => void page.ask({ ask: 'add_words', recording, first: from.id, last: to.id, before }),
    })
  },
  markers: ({ page, doc }) => {
    const go = (layer: string, seconds: number | null) => {
      page.laying.openLayer(layer)
      if (seconds !== null) page.player.show(seconds)
    }
    return h(MarkersDrawer, { doc, onGo: go, onClose: page.close })
  },
  captions: ({ page, doc, choices, time }) =>
    h(CaptionsDrawer, {
      doc, choices, time, chooseStyle: chooseStyle(page), letters: page.proof.open.value.filter((each) => each.check === 'letters'), onEdit: page.edit, onKeywords: () => findKeywords(page), onOpen: page.laying.openLayer, onClose: page.close,
      onWord: (first, last, hidden) => void layWording(page, [first, last], hidden),
      onWrite: (first, last, text) => void writeWording(page, [first, last], text),
      onLayout: (layout) => void page.edit([{ type: 'set_layout', layout }]),
      onGo: (seconds) => page.player.show(seconds),
    }),
  shelf: ({ page, doc }) => h(ShelfDrawer, { said: page.said.value, shown: shownIn(doc), onPick: (media) => void layBroll(page.laying, media), onClose: page.close }),
  suggest: (open) => suggestions(open, false),
  cuts: (open) => suggestions(open, true),
  mix: ({ page, doc, choices }) =>
    h(MixDrawer, {
      doc, choices, solo: page.solo.value, onEdit: page.edit, onOpen: page.laying.openLayer, onSolo: (layer) => (page.solo.value = layer),
      onClose: page.close, onVnodeUnmounted: () => (page.solo.value = null),
    }),
  text: ({ page, doc }) =>
    h(TextDrawer, {
      key: doc.id, doc, onClose: page.close, onChanged: () => void page.sheet.show(doc.edition), onPut: (made) => void page.sheet.made(() => made),
      onGo: (piece) => {
        const at = doc.rows.find((row) => row.piece === piece && row.at !== null)?.at
        if (at != null) page.player.show(at)
      },
    }),
  hooks: ({ page, doc }) =>
    h(HookDrawer, {
      doc, onHear: ({ start, end }) => void page.playPart(start, end), onClose: page.close,
      onMove: (line, repeat) => void page.moving.hookFirst(line, repeat).then(page.close),
    }),
}

/** What stands before the page, by the name it is opened with. */
const DIALOGS: Record<Dialog, (open: Open, onClose: () => void) => VNode> = {
  editions: ({ page, doc }, onClose) => h(EditionsDialog, { doc, onEdit: page.edit, onClose }),
  shapes: ({ page, doc, time }, onClose) => h(ShapesDialog, { doc, time, onKeep: (shapes, house) => void keepShapes(page.sheet, shapes, house), onClose }),
  house: ({ page, doc }, onClose) => h(HouseDialog, { doc, onDress: page.dress, onKept: () => void page.sheet.show(doc.edition), onClose }),
  dressing: ({ doc }, onClose) => h(DressingDialog, { doc, onClose }),
}

/** Those that an address can name: a notice leads there. */
export const NAMED: Drawer[] = ['export', 'review', 'share', 'proof', 'post']

function open(page: SheetPage): Open | null {
  const [doc, choices] = [page.doc.value, page.choices.value]
  return doc && choices && { page, doc, choices, time: page.player.time.value }
}

/** The drawer that is open. */
export function drawerOf(page: SheetPage): VNode | null {
  const now = open(page)
  return now && page.drawer.value && DRAWERS[page.drawer.value](now)
}

/** The dialog that is open. */
export function dialogOf(page: SheetPage): VNode | null {
  const now = open(page)
  return now && page.dialog.value && DIALOGS[page.dialog.value](now, () => (page.dialog.value = null))
}
