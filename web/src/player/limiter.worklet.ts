import { Limiter } from './limiter'
import { Listening, MOMENTS } from './loudness'

declare const sampleRate: number

declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: unknown): void

/** The limiter on the audio thread; it tells ten times a second how loud it is. `processorOptions.ceiling` is the highest that it lets through. */
class LimiterProcessor extends AudioWorkletProcessor {
  private readonly limiter: Limiter
  private readonly listening = new Listening(sampleRate / MOMENTS, 2, (moment) => this.port.postMessage(moment))
  private open = true

  constructor(options: { processorOptions: { ceiling: number } }) {
    super()
    this.limiter = new Limiter(options.processorOptions.ceiling, 2)
    this.port.onmessage = () => (this.open = false)
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [made] = outputs
    this.limiter.process(inputs[0] ?? [], made!, made![0]!.length)
    this.listening.process(made!, made![0]!.length)
    return this.open
  }
}

registerProcessor('limiter', LimiterProcessor)
