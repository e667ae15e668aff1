import { Limiter } from './limiter'

declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: unknown): void

/** The limiter on the audio thread. `processorOptions.ceiling` is the highest sample it lets through. */
class LimiterProcessor extends AudioWorkletProcessor {
  private readonly limiter: Limiter
  private open = true

  constructor(options: { processorOptions: { ceiling: number } }) {
    super()
    this.limiter = new Limiter(options.processorOptions.ceiling, 2)
    this.port.onmessage = () => (this.open = false)
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    this.limiter.process(inputs[0] ?? [], outputs[0]!, outputs[0]![0]!.length)
    return this.open
  }
}

registerProcessor('limiter', LimiterProcessor)
