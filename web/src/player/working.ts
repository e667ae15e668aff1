import { Input, MP4, UrlSource, VideoSampleSink } from 'mediabunny'

/** The picture of one working copy, opened for exact access. */
export class WorkingCopy {
  private constructor(
    private readonly input: Input,
    readonly pictures: VideoSampleSink | null,
  ) {}

  static async open(url: string): Promise<WorkingCopy> {
    const input = new Input({ source: new UrlSource(url), formats: [MP4] })
    const video = await input.getPrimaryVideoTrack()
    return new WorkingCopy(input, video && new VideoSampleSink(video))
  }

  close() {
    this.input.dispose()
  }
}
