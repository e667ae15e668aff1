import worklet from './microphone.worklet.ts?worker&url'

/** Some of what is heard: samples, and where the first of them stands on the audio clock. */
export interface Heard { at: number; heard: Float32Array }

/** Hand on what is heard in a stream, on an audio clock; call what is returned to stop that. */
export async function listenTo(context: AudioContext, stream: MediaStream, heard: (part: Heard) => void): Promise<() => void> {
  await added(context)
  await context.resume()
  const from = context.createMediaStreamSource(stream)
  const node = new AudioWorkletNode(context, 'microphone', { numberOfOutputs: 0 })
  node.port.onmessage = ({ data }: MessageEvent<Heard>) => heard(data)
  from.connect(node)
  return () => {
    node.port.postMessage('stop')
    node.port.onmessage = null
    from.disconnect()
  }
}

/** What to ask of a microphone ("" for the usual one): its sound as it is. */
export const asItIs = (device: string): MediaTrackConstraints => ({
  echoCancellation: false, noiseSuppression: false, autoGainControl: false, ...(device ? { deviceId: { exact: device } } : {}),
})

/**
 * A microphone on an audio clock, without anything that a browser does to voices: what it does would be undone by nobody.
 * `gone` is told when it is unplugged.
 */
export class Microphone {
  private constructor(
    private readonly stream: MediaStream,
    private readonly unheard: () => void,
    readonly device: string,
    /** Seconds between a sound and its arrival here, as far as the device tells. */
    readonly latency: number,
  ) {}

  static async open(context: AudioContext, device: string, heard: (part: Heard) => void, gone: () => void): Promise<Microphone> {
    if (!navigator.mediaDevices || !context.audioWorklet) throw new Error('A microphone can be used only where this page comes over a safe connection (https).')
    const stream = await navigator.mediaDevices.getUserMedia({
      audio: asItIs(device),
    })
    const [track] = stream.getAudioTracks()
    const unheard = await listenTo(context, stream, heard)
    track!.addEventListener('ended', gone)
    const settings = track!.getSettings() as MediaTrackSettings & { latency?: number }
    return new Microphone(stream, unheard, settings.deviceId ?? device, settings.latency ?? 0)
  }

  close() {
    this.unheard()
    for (const track of this.stream.getTracks()) track.stop()
  }
}

const modules = new WeakMap<AudioContext, Promise<void>>()
function added(context: AudioContext): Promise<void> {
  const known = modules.get(context) ?? context.audioWorklet.addModule(worklet)
  modules.set(context, known)
  return known
}
