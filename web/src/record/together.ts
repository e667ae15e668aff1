import type { Schemas } from '@/api/client'
import type { ReadingOut, Script } from './useScripts'

/** A line of a script with its readings, and the one that is taken. */
export interface Chosen {
  n: number
  text: string
  readings: { place: number; read: ReadingOut }[] // `place` is where it stands among all readings
  suggested: number // the place of the one suggested; -1 for none
  place: number // of the one taken; -1 for none
  chosen: ReadingOut | null
  leftOut: boolean // by hand
}

/** The lines of a script as they are put together: what a person chose (by line), else what is suggested. */
export function chosenOf(script: Pick<Script, 'lines'>, beside: Schemas['Beside'] | null, own: Record<number, number>): Chosen[] {
  const all = (beside?.readings ?? []).map((read, place) => ({ place, read }))
  return script.lines.map(({ text }, n) => {
    const readings = all.filter(({ read }) => read.reading.line === n)
    const suggested = beside?.suggested[n] ?? -1
    const place = own[n] ?? suggested
    return { n, text, readings, suggested, place, chosen: all[place]?.read ?? null, leftOut: own[n] === -1 }
  })
}
