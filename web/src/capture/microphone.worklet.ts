declare const currentFrame: number

declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: unknown): void

const BLOCK = 128 // samples at a time, as the standard has it

/** Hands on what a microphone hears, mixed to one channel, with the place of its first sample on the audio clock. */
class MicrophoneProcessor extends AudioWorkletProcessor {
  private open = true

  constructor() {
    super()
    this.port.onmessage = () => (this.open = false)
  }

  process(inputs: Float32Array[][]): boolean {
    const sides = inputs[0] ?? []
    const heard = sides[0]?.slice() ?? new Float32Array(BLOCK) // silence counts: what follows keeps its place
    for (const side of sides.slice(1)) side.forEach((value, n) => (heard[n] = heard[n]! + value))
    if (sides.length > 1) heard.forEach((value, n) => (heard[n] = value / sides.length))
    this.port.postMessage({ at: currentFrame, heard }, [heard.buffer])
    return this.open
  }
}

registerProcessor('microphone', MicrophoneProcessor)
