import { Upload, type DetailedError } from 'tus-js-client'
import { csrfToken } from '@/api/client'
import { KeptParts, type Kept } from './kept'

const PART = 512_000 // bytes sent at once, at most
const RETRIES = [0, 1000, 2000, 3000, 5000, 5000, 10_000, 10_000, 20_000, 20_000, 30_000, 30_000, 60_000]

/** What the server said is wrong; "" where it said nothing. */
function toldBy(error: Error | DetailedError): string {
  const response = 'originalResponse' in error ? error.originalResponse : null
  try {
    return (JSON.parse(response?.getBody() ?? '') as { detail?: string }).detail ?? ''
  } catch {
    return ''
  }
}

/**
 * Sends a recording while it is being made. What has not arrived is kept in the browser, and sent again when the connection is
 * back, or by the next page. `done` gets the recording that the server made of it; `trouble` is told when nothing gets through
 * ("" when it does again).
 */
export class SendWhile {
  private readonly upload: Upload
  private readonly stop: () => void
  readonly done: Promise<string>

  private constructor(private readonly kept: KeptParts, trouble: (told: string) => void) {
    let finished: (recording: string) => void
    this.done = new Promise((resolve) => (finished = resolve))
    this.stop = held(kept.about.id)
    const { name, script, line, url } = kept.about
    this.upload = new Upload({ read: () => Promise.reject(new Error('unused')) }, {
      // What was begun is gone on with, or not at all: its beginning is not here any more.
      ...(url ? { uploadUrl: url, endpoint: null } : { endpoint: '/api/uploads' }),
      fileReader: { openFile: () => Promise.resolve({ size: null as unknown as number, slice: (start, end) => kept.slice(start, end), close() {} }) },
      uploadLengthDeferred: true,
      chunkSize: PART,
      retryDelays: RETRIES,
      storeFingerprintForResuming: false,
      headers: { 'X-CSRFToken': csrfToken() },
      metadata: { filename: name, ...(script ? { script, line: String(line) } : {}) },
      onUploadUrlAvailable: () => void kept.began(this.upload.url ?? ''),
      onShouldRetry(error) {
        const status = error.originalResponse?.getStatus() ?? 0
        trouble(toldBy(error) || 'The server cannot be reached. What is recorded is kept here and sent as soon as it can be.')
        return status === 0 || status >= 500 || status === 409 || status === 423
      },
      onChunkComplete: (_, accepted) => {
        trouble('')
        void kept.arrived(accepted)
      },
      onSuccess: ({ lastResponse }) => {
        this.stop()
        void kept.forget()
        finished(lastResponse.getHeader('Hovvet-Recording') ?? '')
      },
      onError: (error) => trouble(`${toldBy(error) || 'What was recorded could not be sent.'} It is kept in this browser: press Send again.`),
    })
    this.upload.start()
  }

  /** Begin to send something that is being recorded. */
  static async begin(about: Omit<Kept, 'id' | 'begun' | 'size' | 'url'>, trouble: (told: string) => void): Promise<SendWhile> {
    return new SendWhile(await KeptParts.begin(about), trouble)
  }

  /** Send what an earlier page left. */
  static async rest(about: Kept, trouble: (told: string) => void): Promise<SendWhile> {
    return new SendWhile(await KeptParts.left(about), trouble)
  }

  /** Another part is there. */
  add(part: Blob) {
    void this.kept.add(part)
  }

  /** Bytes that have not arrived. */
  get missing(): number {
    return this.kept.missing
  }

  /** Whether it is held only as long as this page is open. */
  get only(): boolean {
    return this.kept.only
  }

  /** All of it is there; resolves when it has arrived. */
  finish(): Promise<string> {
    this.kept.end()
    return this.done
  }

  again() {
    this.upload.start()
  }

  /** Throw it away. */
  async forget() {
    this.stop()
    await this.kept.forget()
    await this.upload.abort(true).catch(() => {})
  }
}

const lockOf = (id: string) => `hovvet-recorded:${id}`

/** Hold something for this page, so that no other one takes it for left; call what is returned when that is over. */
function held(id: string): () => void {
  let over = () => {}
  void navigator.locks?.request(lockOf(id), () => new Promise<void>((done) => (over = done)))
  return () => over()
}

/** What earlier pages of somebody left in this browser, and no page holds any more. */
export async function leftBy(by: string): Promise<Kept[]> {
  const kept = await KeptParts.all(by)
  const locks = (await navigator.locks?.query())?.held?.map((each) => each.name) ?? []
  return kept.filter((each) => !locks.includes(lockOf(each.id)))
}

/** Throw away what an earlier page left; what arrived of it stays with the server. */
export async function forgetLeft(about: Kept) {
  await (await KeptParts.left(about)).forget()
}
