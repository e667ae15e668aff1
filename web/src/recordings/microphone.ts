import worklet from './microphone.worklet.ts?worker&url'

/** Some of what is heard: samples, and where the first of them stands on the audio clock. */
export interface Heard { at: number; heard: Float32Array }

/** What went wrong with a device, in words that help. */
export function deviceProblem(error: unknown): string {
  const name = error instanceof DOMException ? error.name : ''
  if (name === 'NotAllowedError' || name === 'SecurityError') return 'The browser may not use the microphone. Allow it beside the address of this page, then try again.'
  if (name === 'NotFoundError' || name === 'OverconstrainedError') return 'No microphone was found. Plug one in, then try again.'
  if (name === 'NotReadableError' || name === 'AbortError') return 'Another program holds the microphone. Close that, then try again.'
  return 'The microphone could not be opened. Plug it in anew, or choose another one.'
}

/** The microphones that there are; their names are known once one was allowed. */
export async function microphones(): Promise<{ id: string; name: string }[]> {
  const devices = await navigator.mediaDevices.enumerateDevices()
  return devices.filter((each) => each.kind === 'audioinput').map((each, n) => ({ id: each.deviceId, name: each.label || `Microphone ${n + 1}` }))
}

/**
 * A microphone on an audio clock, without anything that a browser does to voices: what it does would be undone by nobody.
 * `gone` is told when it is unplugged.
 */
export class Microphone {
  private constructor(
    private readonly stream: MediaStream,
    private readonly from: MediaStreamAudioSourceNode,
    private readonly node: AudioWorkletNode,
    readonly device: string,
    /** Seconds between a sound and its arrival here, as far as the device tells. */
    readonly latency: number,
  ) {}

  static async open(context: AudioContext, device: string, heard: (part: Heard) => void, gone: () => void): Promise<Microphone> {
    if (!navigator.mediaDevices || !context.audioWorklet) throw new Error('A microphone can be used only where this page comes over a safe connection (https).')
    const stream = await navigator.mediaDevices.getUserMedia({
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, ...(device ? { deviceId: { exact: device } } : {}) },
    })
    const [track] = stream.getAudioTracks()
    await added(context)
    await context.resume()
    const from = context.createMediaStreamSource(stream)
    const node = new AudioWorkletNode(context, 'microphone', { numberOfOutputs: 0 })
    node.port.onmessage = ({ data }: MessageEvent<Heard>) => heard(data)
    from.connect(node)
    track!.addEventListener('ended', gone)
    const settings = track!.getSettings() as MediaTrackSettings & { latency?: number }
    return new Microphone(stream, from, node, settings.deviceId ?? device, settings.latency ?? 0)
  }

  close() {
    this.node.port.postMessage('stop')
    this.node.port.onmessage = null
    this.from.disconnect()
    for (const track of this.stream.getTracks()) track.stop()
  }
}

const modules = new WeakMap<AudioContext, Promise<void>>()
function added(context: AudioContext): Promise<void> {
  const known = modules.get(context) ?? context.audioWorklet.addModule(worklet)
  modules.set(context, known)
  return known
}
