import { expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { chosenOf } from './together'

const read = (line: number, take: string) => ({ take, looks_away: false, against: 0, reading: { line, run: 0, first: 1, last: 2, start: 0, end: 1, tokens: [], longest_halt: 0, halts: 0 } })
const script = { lines: ['One.', 'Two.', 'Three.'].map((text) => ({ text, part: 0, words: 1 })) }
const beside: Schemas['Beside'] = { readings: [read(0, 'a'), read(0, 'b'), read(1, 'a')], suggested: [1, 2, -1], waits: 0 }

it('takes what is suggested, or what a person chose, or nothing', () => {
  const told = (own: Record<number, number>) => chosenOf(script, beside, own).map((each) => [each.chosen?.take ?? null, each.leftOut])
  expect(told({})).toEqual([['b', false], ['a', false], [null, false]])
  expect(told({ 0: 0, 1: -1 })).toEqual([['a', false], [null, true], [null, false]])
  expect(chosenOf(script, null, {}).map((each) => each.readings)).toEqual([[], [], []])
})
