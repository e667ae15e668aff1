import type { InjectionKey } from 'vue'
import type { Ask } from '@/document/useDocument'

/** Asking for a change of the clip by what may be over only after its settings were closed. */
export const ASK: InjectionKey<(ask: Ask) => Promise<unknown>> = Symbol('ask')
