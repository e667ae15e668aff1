import { describe, expect, it } from 'vitest'
import { goOn, lineAt, lineFrom, type Course, type Heard } from './prompting'

const course = (heard: Heard | null = null, holds = false): Course => ({ pace: 120, holds, heard }) // two words a second
/** Where it is after some seconds, frame by frame. */
function after(seconds: number, from: number, of: Course, words = 1000, began = 0) {
  let word = from
  for (let n = 0; n < seconds * 60; n++) word = goOn(word, 1 / 60, began + n / 60, of, words)
  return word
}

describe('a prompter', () => {
  it('goes by the pace, and no further than the end', () => {
    expect(after(10, 0, course())).toBeCloseTo(20, 5)
    expect(after(10, 995, course())).toBe(1000)
    expect(after(10, 5, course(null, true))).toBe(5)
  })
  it('catches up with what is heard without a jump', () => {
    const sure: Heard = { word: 30, at: 0, how: 'sure' }
    const soon = after(0.1, 20, course(sure))
    expect(soon).toBeGreaterThan(20)
    expect(soon).toBeLessThan(21)
    expect(after(3, 20, course(sure))).toBeCloseTo(36, 0)
  })
  it('waits where nothing is said, or something else', () => expect(after(5, 20, course({ word: 20, at: 0, how: 'waits' }))).toBe(20))
  it('waits when it is a little ahead, and goes back when one began anew', () => {
    expect(after(0.5, 24, course({ word: 20, at: 0, how: 'sure' }))).toBe(24)
    expect(after(2, 60, course({ word: 20, at: 0, how: 'sure' }))).toBeLessThan(30)
  })
  it('goes on by the pace where it is not sure, and where what was heard is old', () => {
    expect(after(5, 20, course({ word: 0, at: 0, how: 'unsure' }))).toBeCloseTo(30, 5)
    expect(after(5, 20, course({ word: 3, at: 0, how: 'sure' }), 1000, 10)).toBeCloseTo(30, 5)
  })
})

it('goes back to the beginning of a line, then to the line before', () => {
  const starts = [0, 10, 25]
  expect([0, 9.9, 10, 99].map((word) => lineAt(starts, word))).toEqual([0, 0, 1, 2])
  expect(lineFrom(starts, 18, -1)).toBe(10)
  expect(lineFrom(starts, 11, -1)).toBe(0)
  expect(lineFrom(starts, 11, 1)).toBe(25)
  expect(lineFrom(starts, 30, 1)).toBe(25)
})
