import type { Plan } from '@/player/timeline'

export const SPEECH = '' // the layer that what is said in the clip is of

/** A plan of which only one layer is heard, or what is said; all of it where none is asked for. Nothing but hearing changes. */
export function soloed(plan: Plan | null, layer: string | null): Plan | null {
  return plan && layer !== null ? { ...plan, sound: plan.sound?.filter((each) => (each.layer ?? SPEECH) === layer) } : plan
}
