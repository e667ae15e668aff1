import type { SheetPage } from '@/sheet/useSheetPage'

/** Let a camera be seen over the selected words. */
export function layCamera({ laying }: SheetPage, camera: number) {
  return laying.lay({ kind: 'camera', over: 'words', sets: { camera } })
}
