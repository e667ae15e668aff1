import { openDB, type DBSchema, type IDBPDatabase } from 'idb'

/** What is being recorded: what it is called, what it is a take of, and where its upload is, once it has begun. */
export interface Kept {
  id: string
  name: string
  script: string // "" for none
  line: number
  by: string // whose it is
  begun: number // ms
  size: number // bytes so far
  url: string // of its upload; "" before
}

interface Stored extends DBSchema {
  kept: { key: string; value: Kept }
  parts: { key: [string, number]; value: Blob } // of what, from which byte on
}

const NAME = 'hovvet-recorded'
let opened: Promise<IDBPDatabase<Stored>> | null = null

function database(): Promise<IDBPDatabase<Stored>> {
  opened ??= openDB<Stored>(NAME, 1, {
    upgrade(made) {
      made.createObjectStore('kept', { keyPath: 'id' })
      made.createObjectStore('parts')
    },
  })
  return opened
}

const all = (id: string) => IDBKeyRange.bound([id, 0], [id, Infinity])

/**
 * What is recorded, part by part, kept in the browser until it has arrived: a page that is closed leaves it for the next one.
 * Where the browser keeps nothing (its disk is full, or it is forbidden), it is held as long as the page is open: `only` says so.
 */
export class KeptParts {
  private readonly held = new Map<number, Blob>() // from which byte on; what is not kept otherwise
  private places: { from: number; size: number }[] = []
  private waiting: (() => void)[] = []
  private ended = false
  only = false

  private constructor(readonly about: Kept) {}

  /** Begin to keep something. */
  static async begin(about: Omit<Kept, 'id' | 'begun' | 'size' | 'url'>): Promise<KeptParts> {
    const made = new KeptParts({ ...about, id: crypto.randomUUID(), begun: Date.now(), size: 0, url: '' })
    await made.write(async (store) => void (await store.put('kept', made.about)))
    return made
  }

  /** What an earlier page left. */
  static async left(about: Kept): Promise<KeptParts> {
    const made = new KeptParts(about)
    const store = await database()
    const keys = await store.getAllKeys('parts', all(about.id))
    for (const [, from] of keys) made.places.push({ from, size: (await store.get('parts', [about.id, from]))!.size })
    made.ended = true
    return made
  }

  /** Everything that is kept for somebody. */
  static async all(by: string): Promise<Kept[]> {
    try {
      return (await (await database()).getAll('kept')).filter((each) => each.by === by)
    } catch {
      return [] // this browser keeps nothing
    }
  }

  /** Bytes that have not arrived. */
  get missing(): number {
    return this.places.reduce((sum, each) => sum + each.size, 0)
  }

  /** Another part is there. */
  async add(part: Blob): Promise<void> {
    const from = this.about.size
    this.about.size += part.size
    this.held.set(from, part)
    this.places.push({ from, size: part.size })
    this.wake()
    const kept = await this.write(async (store) => {
      const both = store.transaction(['parts', 'kept'], 'readwrite')
      await Promise.all([both.objectStore('parts').put(part, [this.about.id, from]), both.objectStore('kept').put(this.about), both.done])
    })
    if (kept) this.held.delete(from)
  }

  /** No more comes. */
  end() {
    this.ended = true
    this.wake()
  }

  /** Its upload is there. */
  async began(url: string) {
    this.about.url = url
    await this.write(async (store) => void (await store.put('kept', this.about)))
  }

  /** So many bytes have arrived: they are not needed any more. */
  async arrived(bytes: number) {
    const gone = this.places.filter((each) => each.from + each.size <= bytes)
    this.places = this.places.filter((each) => each.from + each.size > bytes)
    for (const { from } of gone) this.held.delete(from)
    await this.write(async (store) => void (await Promise.all(gone.map(({ from }) => store.delete('parts', [this.about.id, from])))))
  }

  /** Nothing of it is needed any more. */
  async forget() {
    this.held.clear()
    this.places = []
    this.end()
    await this.write(async (store) => void (await Promise.all([store.delete('kept', this.about.id), store.delete('parts', all(this.about.id))])))
  }

  /** Bytes from `start` on, at most up to `end`; waits until there are some. `done` when there are none after them. */
  async slice(start: number, end: number): Promise<{ value: Blob | null; done: boolean }> {
    while (!this.ended && this.about.size <= start) await new Promise<void>((wake) => this.waiting.push(wake))
    const to = Math.min(end, this.about.size)
    const done = this.ended && to >= this.about.size
    if (to <= start) return { value: null, done }
    const blobs: Blob[] = []
    for (const { from, size } of this.places.filter((each) => each.from < to && each.from + each.size > start)) {
      const part = this.held.get(from) ?? (await (await database()).get('parts', [this.about.id, from]))
      if (!part) throw new Error('A part of what was recorded is no longer there.')
      blobs.push(part.slice(Math.max(start - from, 0), Math.min(to - from, size)))
    }
    const value = new Blob(blobs)
    if (value.size !== to - start) throw new Error('The beginning of what was recorded is no longer there.')
    return { value, done }
  }

  private wake() {
    for (const each of this.waiting.splice(0)) each()
  }

  private async write(work: (store: IDBPDatabase<Stored>) => Promise<void>): Promise<boolean> {
    try {
      await work(await database())
      return true
    } catch {
      this.only = true
      return false
    }
  }
}
