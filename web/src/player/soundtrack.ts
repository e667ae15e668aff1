import { AudioSampleSink, Input, MP4, UrlSource } from 'mediabunny'

export type Sides = [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]

/** The sound of one working copy, opened for exact access. */
export class Soundtrack {
  private constructor(private readonly sounds: AudioSampleSink | null) {}

  static async open(url: string): Promise<Soundtrack> {
    const track = await new Input({ source: new UrlSource(url), formats: [MP4] }).getPrimaryAudioTrack()
    return new Soundtrack(track && new AudioSampleSink(track))
  }

  /** Left and right samples from a place on, at `rate`; silence where there is none. */
  async read(first: number, count: number, rate: number): Promise<Sides> {
    const sides: Sides = [new Float32Array(count), new Float32Array(count)]
    if (!this.sounds || count <= 0) return sides
    // The first packet after a jump decodes wrongly: begin one early and drop it.
    const early = Math.max((first - 2048) / rate, 0)
    let dropped = early === 0
    for await (const sample of this.sounds.samples(early, (first + count) / rate)) {
      const at = Math.round(sample.timestamp * rate) - first
      if (dropped && at < count && at + sample.numberOfFrames > 0) {
        for (const side of [0, 1] as const) {
          const plane = new Float32Array(sample.numberOfFrames)
          sample.copyTo(plane, { planeIndex: Math.min(side, sample.numberOfChannels - 1), format: 'f32-planar' })
          const from = Math.max(-at, 0)
          sides[side].set(plane.subarray(from, Math.min(plane.length, count - at)), at + from)
        }
      }
      dropped = true
      sample.close()
    }
    return sides
  }
}
