import type { InjectionKey } from 'vue'
import type { usePlayer } from './usePlayer'

/** The player of the page, for what plays along with it. */
export const PLAYER: InjectionKey<ReturnType<typeof usePlayer>> = Symbol('player')
