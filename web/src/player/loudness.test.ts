import { gunzipSync } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import golden from '../../../tests/golden/loudness.json'
import { integrated, Listening, shortTerm, type Moment } from './loudness'

const bytes = gunzipSync(Buffer.from(golden.sound, 'base64'))
const sound = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))

function heard(block: number): Moment[] {
  const moments: Moment[] = []
  const listening = new Listening(4800, 2, (moment) => moments.push(moment))
  for (let at = 0; at < sound.length; at += block) {
    const one = sound.subarray(at, at + block)
    listening.process([one, one.map((each) => each / 2)], one.length)
  }
  return moments
}

describe('how loud it is', () => {
  it('is what the core measures, whatever the blocks', () => {
    for (const block of [128, 4800, 7001]) {
      heard(block).forEach((moment, n) => {
        expect(moment.power / Math.max(golden.power[n]!, 1e-12)).toBeCloseTo(1, 3)
        expect(moment.peak).toBeCloseTo(golden.peak[n]!, 4)
      })
    }
  })

  it('is integrated through both gates, as the core has it', () => {
    expect(integrated(golden.power)).toBeCloseTo(golden.integrated, 3)
    expect(integrated([0, 0, 0, 0, 0])).toBeNull()
    expect(integrated([])).toBeNull()
  })

  it('is that of the last three seconds for now, and of silence none', () => {
    const loud = Array<number>(30).fill(0.1)
    expect(shortTerm([...Array<number>(100).fill(0), ...loud])).toBeCloseTo(-10.691, 3)
    expect(shortTerm([...loud, ...Array<number>(30).fill(0)])).toBeNull()
  })
})
