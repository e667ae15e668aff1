import { describe, expect, it } from 'vitest'
import { byDay, daysOf, daysOn, inWeek, isOut, monday, monthsOn, narrowed, nextHour, weeksOf, type BoardClip, type Narrowing } from './narrowing'

const NOW = new Date(2027, 2, 3, 12) // a Wednesday
const clip = (more: Partial<BoardClip>): BoardClip => ({ id: 'c', title: 'A clock', created: '', shows: [], person: '', due: null, cells: [], ...more })
const cell = (state: string, at?: Date) =>
  ({ edition: 'e1', outlet: 'tall', state, film: true, to_export: false, sendings: at ? [{ id: 'p', account: 'Bench', state: 'planned', at: at.toISOString(), told: '' }] : [] }) as BoardClip['cells'][0]
const all: Narrowing = { text: '', show: '', person: '', state: '', week: '' }

describe('weeks', () => {
  it('begin on Monday, also at the turn of a year', () => {
    expect(monday(NOW)).toBe('2027-03-01')
    expect(monday(new Date(2027, 2, 7, 23, 59))).toBe('2027-03-01')
    expect(monday(new Date(2027, 0, 1))).toBe('2026-12-28')
    expect(monday(NOW, 1)).toBe('2027-03-08')
  })

  it('have what is due in them, and what goes out', () => {
    expect(inWeek(clip({ due: '2027-03-07' }), 'this', NOW)).toBe(true)
    expect(inWeek(clip({ due: '2027-03-08' }), 'this', NOW)).toBe(false)
    expect(inWeek(clip({ due: '2027-03-08' }), 'next', NOW)).toBe(true)
    expect(inWeek(clip({ due: '2027-03-15' }), 'later', NOW)).toBe(true)
    expect(inWeek(clip({ cells: [cell('planned', new Date(2027, 2, 9, 9))] }), 'next', NOW)).toBe(true)
    expect(inWeek(clip({}), 'none', NOW)).toBe(true)
    expect(daysOf(clip({ due: '2027-03-01', cells: [cell('planned', new Date(2027, 2, 9, 9))] }))).toEqual(['2027-03-01', '2027-03-09'])
  })

  it('call overdue what was due and is not out', () => {
    expect(inWeek(clip({ due: '2027-03-02', cells: [cell('approved')] }), 'overdue', NOW)).toBe(true)
    expect(inWeek(clip({ due: '2027-03-02', cells: [cell('sent')] }), 'overdue', NOW)).toBe(false)
    expect(inWeek(clip({ due: '2027-03-03', cells: [cell('approved')] }), 'overdue', NOW)).toBe(false)
    expect(isOut(clip({}))).toBe(false)
  })
})

it('narrows by all that is said at once', () => {
  const clips = [
    clip({ id: 'a', title: 'Clocks', shows: ['Notes'], person: 'maren', cells: [cell('review')] }),
    clip({ id: 'b', title: 'Toasters', shows: ['Notes', 'Talks'], person: 'oddvik', cells: [cell('sent'), cell('asks')], due: '2027-03-04' }),
  ]
  const found = (more: Partial<Narrowing>) => narrowed(clips, { ...all, ...more }, NOW).map((each) => each.id)
  expect(found({})).toEqual(['a', 'b'])
  expect(found({ text: ' toast' })).toEqual(['b'])
  expect(found({ show: 'Notes' })).toEqual(['a', 'b'])
  expect(found({ show: 'Notes', person: 'maren' })).toEqual(['a'])
  expect(found({ state: 'asks' })).toEqual(['b'])
  expect(found({ week: 'this' })).toEqual(['b'])
  expect(found({ week: 'none', state: 'asks' })).toEqual([])
})

it('offers the next full hour', () => {
  expect(nextHour(new Date(2027, 11, 31, 23, 30))).toEqual({ day: '2028-01-01', time: '00:00' })
})

it('lays a month out in whole weeks from Monday on', () => {
  const march = weeksOf('2027-03-17')
  expect(march.map((week) => [week[0], week[6]])).toEqual([['2027-03-01', '2027-03-07'], ['2027-03-08', '2027-03-14'], ['2027-03-15', '2027-03-21'], ['2027-03-22', '2027-03-28'], ['2027-03-29', '2027-04-04']])
  expect(weeksOf('2027-02-01')).toHaveLength(4) // from Monday to Sunday
  expect(weeksOf('2027-05-31').flat()).toHaveLength(42)
  expect(new Set(weeksOf('2027-10-01').flat()).size).toBe(35) // clocks are set back in it
  expect(monthsOn('2027-01-31', 1)).toBe('2027-02-28')
  expect(monthsOn('2027-01-15', -1)).toBe('2026-12-15')
  expect(daysOn('2027-02-28', 1)).toBe('2027-03-01')
})

it('puts things under their days', () => {
  expect([...byDay(['1a', '2b', '1c'], (each) => each[0]!)]).toEqual([['1', ['1a', '1c']], ['2', ['2b']]])
})
