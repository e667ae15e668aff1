import type { Schemas } from '@/api/client'

export type BoardClip = Schemas['BoardClip']
export type Cell = Schemas['CellOut']

/** What the board is narrowed to; '' for all. */
export interface Narrowing { text: string; show: string; person: string; state: string; week: Week | '' }
export type Week = 'overdue' | 'this' | 'next' | 'later' | 'none'
export const WEEKS: Record<Week, string> = { overdue: 'Overdue', this: 'This week', next: 'Next week', later: 'Later', none: 'Without a day' }
const DAY = 86_400_000

/** A day as the calendar of whoever looks has it: 2027-03-05. */
export function dayOf(when: Date): string {
  const two = (n: number) => String(n).padStart(2, '0')
  return `${when.getFullYear()}-${two(when.getMonth() + 1)}-${two(when.getDate())}`
}

/** The Monday of a day's week, so many weeks on. */
export function monday(when: Date, weeks = 0): string {
  const first = new Date(when.getFullYear(), when.getMonth(), when.getDate() - ((when.getDay() + 6) % 7) + 7 * weeks)
  return dayOf(first)
}

/** Whether all that a clip is made for has gone out. */
export const isOut = (clip: BoardClip) => clip.cells.length > 0 && clip.cells.every((each) => each.state === 'sent')

/** The days that matter of a clip: by when it is due, and when something of it goes out. */
export function daysOf(clip: BoardClip): string[] {
  const sent = clip.cells.flatMap((cell) => cell.sendings.map((each) => dayOf(new Date(each.at))))
  return [...(clip.due ? [clip.due] : []), ...sent]
}

/** Whether a clip belongs to a week, seen at a moment. */
export function inWeek(clip: BoardClip, week: Week, now: Date): boolean {
  const days = daysOf(clip)
  if (week === 'none') return !days.length
  if (week === 'overdue') return clip.due != null && clip.due < dayOf(now) && !isOut(clip)
  const [first, end] = { this: [monday(now), monday(now, 1)], next: [monday(now, 1), monday(now, 2)], later: [monday(now, 2), '9999'] }[week]
  return days.some((day) => day >= first! && day < end!)
}

/** The clips that are wanted, in the order in which they came. */
export function narrowed(clips: BoardClip[], wanted: Narrowing, now: Date): BoardClip[] {
  const text = wanted.text.trim().toLowerCase()
  return clips.filter((clip) =>
    (!text || clip.title.toLowerCase().includes(text))
    && (!wanted.show || clip.shows.includes(wanted.show))
    && (!wanted.person || clip.person === wanted.person)
    && (!wanted.state || clip.cells.some((cell) => cell.state === wanted.state))
    && (!wanted.week || inWeek(clip, wanted.week, now)))
}

/** Things by the day that each belongs to. */
export function byDay<T>(things: T[], day: (each: T) => string): Map<string, T[]> {
  const found = new Map<string, T[]>()
  for (const each of things) found.set(day(each), [...(found.get(day(each)) ?? []), each])
  return found
}

/** The weeks of a day's month, from Monday on, as days: whole ones, so that some are of the months beside it. */
export function weeksOf(day: string): string[][] {
  const [year, month] = day.split('-').map(Number)
  const last = dayOf(new Date(year!, month!, 0))
  const weeks: string[][] = []
  for (let first = monday(new Date(year!, month! - 1, 1)); first <= last; first = monday(at(first), 1)) {
    weeks.push(Array.from({ length: 7 }, (_, n) => daysOn(first, n)))
  }
  return weeks
}

/** A day at noon, as the calendar of whoever looks has it. */
export function at(day: string): Date {
  const [year, month, date] = day.split('-').map(Number)
  return new Date(year!, month! - 1, date, 12)
}

/** So many days on. */
export function daysOn(day: string, days: number): string {
  const from = at(day)
  return dayOf(new Date(from.getFullYear(), from.getMonth(), from.getDate() + days, 12))
}

/** The same day of another month, or its last where it is shorter. */
export function monthsOn(day: string, months: number): string {
  const from = at(day)
  const last = new Date(from.getFullYear(), from.getMonth() + months + 1, 0).getDate()
  return dayOf(new Date(from.getFullYear(), from.getMonth() + months, Math.min(from.getDate(), last), 12))
}

/** A time as a field for day and time takes it: the next full hour. */
export function nextHour(now: Date): { day: string; time: string } {
  const next = new Date(now.getTime() + DAY / 24)
  return { day: dayOf(next), time: `${String(next.getHours()).padStart(2, '0')}:00` }
}
