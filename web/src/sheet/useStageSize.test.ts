import { describe, expect, it } from 'vitest'
import { placed } from './useStageSize'

const FREE = { side: 0, top: 0 }
/** What is left of the window of so many pixels for stage and rows: without the head and the ruler. */
const left = (width: number, height: number) => ({ width, height: height - 52 - 69 })

describe('the stage', () => {
  it('takes the room there is beside the rows for a tall clip', () => {
    expect(placed(left(1280, 800), 9 / 16, FREE)).toEqual({ where: 'side', size: 371 }) // a picture of 339 x 603
    expect(placed(left(1920, 1080), 9 / 16, FREE)).toEqual({ where: 'side', size: 529 }) // of 497 x 883
  })

  it('leaves most of the window to the rows for a square one', () => {
    expect(placed(left(1280, 800), 1, FREE)).toEqual({ where: 'side', size: Math.round(1280 * 0.38) })
  })

  it('stands above the rows for a wide clip, and on a phone', () => {
    expect(placed(left(1280, 800), 16 / 9, FREE).where).toBe('top')
    expect(placed(left(390, 844), 9 / 16, FREE)).toMatchObject({ where: 'top' })
    expect(placed(left(640, 400), 9 / 16, FREE)).toMatchObject({ where: 'side' })
  })

  it('is as large as it was dragged, as far as there is room', () => {
    expect(placed(left(1280, 800), 9 / 16, { side: 250, top: 0 }).size).toBe(250)
    expect(placed(left(1280, 800), 9 / 16, { side: 3000, top: 0 }).size).toBe(371)
    expect(placed(left(640, 400), 1, { side: 3000, top: 0 }).size).toBeLessThanOrEqual(340)
    expect(placed(left(1280, 800), 16 / 9, { side: 250, top: 1 }).size).toBe(130)
  })
})
