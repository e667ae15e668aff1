import { Upload } from 'tus-js-client'
import { csrfToken } from '@/api/client'

const PART = 48_000 // bytes sent at once: half a second
const FULL = 32767

/** The head of a WAV, 16 bits, whose length is not known yet: it goes on to the end of the file. */
function wavHead(rate: number): Uint8Array<ArrayBuffer> {
  const head = new DataView(new ArrayBuffer(44))
  const write = (at: number, text: string) => [...text].forEach((letter, n) => head.setUint8(at + n, letter.charCodeAt(0)))
  write(0, 'RIFF')
  head.setUint32(4, 0xffffffff, true)
  write(8, 'WAVEfmt ')
  head.setUint32(16, 16, true)
  head.setUint16(20, 1, true) // PCM
  head.setUint16(22, 1, true) // one channel
  head.setUint32(24, rate, true)
  head.setUint32(28, rate * 2, true)
  head.setUint16(32, 2, true)
  head.setUint16(34, 16, true)
  write(36, 'data')
  head.setUint32(40, 0xffffffff, true)
  return new Uint8Array(head.buffer)
}

/** Samples as 16 bits. */
export function sixteenBits(samples: Float32Array): Uint8Array<ArrayBuffer> {
  const made = new DataView(new ArrayBuffer(samples.length * 2))
  samples.forEach((value, n) => made.setInt16(n * 2, Math.round(Math.min(Math.max(value, -1), 1) * FULL), true))
  return new Uint8Array(made.buffer)
}

/**
 * Sends a recording while it is being made. What has not arrived is held here, and sent again when the connection is back.
 * `done` gets the recording that the server made of it; `trouble` is told when nothing gets through ("" when it does again).
 */
export class SendWhile {
  private controller: ReadableStreamDefaultController<Uint8Array> | null = null
  private readonly upload: Upload
  readonly done: Promise<string>

  constructor(name: string, rate: number, trouble: (told: string) => void) {
    const stream = new ReadableStream<Uint8Array>({ start: (controller) => void (this.controller = controller) })
    let finished: (recording: string) => void
    this.done = new Promise((resolve) => (finished = resolve))
    this.upload = new Upload(stream.getReader(), {
      endpoint: '/api/uploads',
      uploadLengthDeferred: true,
      chunkSize: PART,
      retryDelays: [0, 1000, 2000, 3000, 5000, 5000, 10_000, 10_000, 20_000, 20_000, 30_000, 30_000, 60_000],
      storeFingerprintForResuming: false,
      headers: { 'X-CSRFToken': csrfToken() },
      metadata: { filename: name },
      onShouldRetry(error) {
        const status = error.originalResponse?.getStatus() ?? 0
        trouble('The server cannot be reached. What you say is kept here and sent as soon as it can be.')
        return status === 0 || status >= 500 || status === 409 || status === 423
      },
      onChunkComplete: () => trouble(''),
      onSuccess: ({ lastResponse }) => finished(lastResponse.getHeader('Hovvet-Recording') ?? ''),
      onError: () => trouble('What you said could not be sent. Do not close this page: press Send again.'),
    })
    this.controller!.enqueue(wavHead(rate))
    this.upload.start()
  }

  add(samples: Float32Array) {
    this.controller?.enqueue(sixteenBits(samples))
  }

  /** All of it is there; resolves when it has arrived. */
  finish(): Promise<string> {
    this.controller?.close()
    this.controller = null
    return this.done
  }

  again() {
    this.upload.start()
  }

  /** Throw it away. */
  async forget() {
    this.controller?.close()
    this.controller = null
    await this.upload.abort(true).catch(() => {})
  }
}
