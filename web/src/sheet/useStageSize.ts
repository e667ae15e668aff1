import { useElementSize, useStorage } from '@vueuse/core'
import { computed, type Ref } from 'vue'

/** Where the stage stands, and how far it reaches: pixels of its width beside the rows, of its height above them. */
export interface StagePlace { where: 'side' | 'top'; size: number }

const AROUND = { width: 32, height: 76 } // pixels of the stage's part that are not picture: margins, transport
const LEAST = 130 // pixels
const MOST = { side: 0.38, top: 0.46 } // of the window that it takes unless a person drags it
const ROWS = { side: 300, top: 150 } // pixels that are always left for the rows
const WIDE = 1.3 // width to height: from here on it stands above the rows

/** Where the stage of a shape (width to height) stands in a window (pixels): as large as there is room for, unless it was `dragged`. */
export function placed(window: { width: number; height: number }, shape: number, dragged: { side: number; top: number }): StagePlace {
  const where = shape >= WIDE || window.width < window.height * 0.8 ? 'top' : 'side'
  const room = where === 'side' ? window.width : window.height
  const fits = where === 'side' ? (window.height - AROUND.height) * shape + AROUND.width : (window.width - AROUND.width) / shape + AROUND.height
  const wanted = dragged[where] || Math.min(fits, room * MOST[where])
  return { where, size: Math.round(Math.max(Math.min(wanted, fits, room - ROWS[where]), LEAST)) }
}

/** The place of the stage in the page of a clip. Where a person dragged its edge it stays, for each of both places. */
export function useStageSize(frame: Ref<HTMLElement | null>, shape: Ref<number>) {
  const { width, height } = useElementSize(frame)
  const dragged = useStorage('hovvet-stage', { side: 0, top: 0 })
  const place = computed(() => placed({ width: width.value, height: height.value }, shape.value, dragged.value))
  return {
    place,
    /** Make it so large; 0: as large as there is room for. */
    resize: (size: number) => (dragged.value = { ...dragged.value, [place.value.where]: Math.round(size) }),
  }
}
