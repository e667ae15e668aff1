import { describe, expect, it } from 'vitest'
import { clock, size, timeLeft } from './format'

describe('what people read', () => {
  it('of times', () => {
    expect([0, 41.27, 59.96, 61.04, 3599.94, 3600, 3725.6, -2].map((each) => clock(each))).toEqual(['0:00.0', '0:41.3', '1:00.0', '1:01.0', '59:59.9', '1:00:00', '1:02:05', '0:00.0'])
    expect([59.4, 59.5, 60, 3725.6].map((each) => clock(each, false))).toEqual(['0:59', '1:00', '1:00', '1:02:06'])
  })

  it('of what is left', () => {
    expect([null, 3, 22, 53, 70, 130, 600].map(timeLeft)).toEqual(['', 'a few seconds left', 'about 20 s left', 'about 55 s left', 'about a minute left', 'about 2 minutes left', 'about 10 minutes left'])
  })

  it('of sizes', () => {
    expect([400_000, 9_940_000, 12_400_000, 2_340_000_000].map(size)).toEqual(['0.4 MB', '9.9 MB', '12 MB', '2.3 GB'])
  })
})
