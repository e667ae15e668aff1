import { AudioSampleSink, Input, MP4, UrlSource, VideoSampleSink } from 'mediabunny'

/** The working copy of one recording, opened for exact access. */
export class WorkingCopy {
  private constructor(
    private readonly input: Input,
    readonly pictures: VideoSampleSink | null,
    private readonly sounds: AudioSampleSink | null,
  ) {}

  static async open(url: string): Promise<WorkingCopy> {
    const input = new Input({ source: new UrlSource(url), formats: [MP4] })
    const [video, audio] = await Promise.all([input.getPrimaryVideoTrack(), input.getPrimaryAudioTrack()])
    return new WorkingCopy(input, video && new VideoSampleSink(video), audio && new AudioSampleSink(audio))
  }

  /** Left and right samples from a place on, at `rate`; silence where there is none. */
  async sound(first: number, count: number, rate: number): Promise<[Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]> {
    const sides: [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] = [new Float32Array(count), new Float32Array(count)]
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

  close() {
    this.input.dispose()
  }
}
