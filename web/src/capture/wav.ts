const FULL = 32767

/** The head of a WAV, 16 bits, whose length is not known yet: it goes on to the end of the file. */
export function wavHead(rate: number): Uint8Array<ArrayBuffer> {
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

const PART = 0.5 // seconds

/** Gathers samples to parts of half a second, as 16 bits. */
export class SoundParts {
  private held: Uint8Array<ArrayBuffer>[] = []
  private count = 0

  constructor(private readonly rate: number, private readonly part: (part: Blob) => void) {}

  add(samples: Float32Array) {
    this.held.push(sixteenBits(samples))
    this.count += samples.length
    if (this.count >= PART * this.rate) this.flush()
  }

  /** Hand on what is left. */
  flush() {
    if (this.count) this.part(new Blob(this.held))
    this.held = []
    this.count = 0
  }
}
