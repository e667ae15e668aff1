import type { Sides } from './soundtrack'

export interface SoundRequest { id: number; url: string; first: number; count: number; rate: number }
export type SoundAnswer = { id: number; sides: Sides } | { id: number; error: string }

interface Waiting { done: (sides: Sides) => void; failed: (error: Error) => void }

/** The sound of working copies, decoded by a worker of its own. */
export class Sounds {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private asked = 0

  /** Left and right samples of a working copy from a place on, at `rate`; silence where there is none. */
  read(url: string, first: number, count: number, rate: number): Promise<Sides> {
    this.worker ??= this.start()
    const request: SoundRequest = { id: ++this.asked, url, first, count, rate }
    this.worker.postMessage(request)
    return new Promise((done, failed) => this.waiting.set(request.id, { done, failed }))
  }

  private start(): Worker {
    const worker = new Worker(new URL('./sounds.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<SoundAnswer>) => {
      const asking = this.waiting.get(data.id)
      this.waiting.delete(data.id)
      if ('error' in data) asking?.failed(new Error(data.error))
      else asking?.done(data.sides)
    }
    worker.onerror = () => {
      for (const asking of this.waiting.values()) asking.failed(new Error('The sound cannot be decoded in this browser.'))
      this.close()
    }
    return worker
  }

  close() {
    this.worker?.terminate()
    this.worker = null
    this.waiting.clear()
  }
}
