import type { InjectionKey, Ref } from 'vue'
import type { Content } from '@/document/useDocument'

/** What is open, as it is kept; undefined before it is. */
export const SAVED: InjectionKey<Ref<Content | undefined>> = Symbol('saved')
