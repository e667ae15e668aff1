import type { InjectionKey, Ref } from 'vue'

/** The canvas on which the stage shows the picture, for what looks at it. */
export const STAGE: InjectionKey<Ref<HTMLCanvasElement | null>> = Symbol('stage')
