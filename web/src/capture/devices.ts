/** Devices that a page may use, by kind. */
export interface Device { id: string; name: string }
export interface Devices { cameras: Device[]; microphones: Device[]; speakers: Device[] }
export type Asked = 'camera' | 'microphone' | 'screen'

/** What went wrong with a device, in words that help. */
export function deviceProblem(error: unknown, asked: Asked = 'microphone'): string {
  const name = error instanceof DOMException ? error.name : ''
  if (asked === 'screen' && name === 'NotAllowedError') return 'No screen was chosen. Press again, and choose a screen, a window or a tab to be recorded.'
  if (name === 'NotAllowedError' || name === 'SecurityError') return `The browser may not use the ${asked}. Allow it beside the address of this page, then try again.`
  if (name === 'NotFoundError' || name === 'OverconstrainedError') return `No ${asked} was found. Plug one in, then try again.`
  if (name === 'NotReadableError' || name === 'AbortError') return `Another program holds the ${asked}. Close that, then try again.`
  return `The ${asked} could not be opened. Plug it in anew, or choose another one.`
}

/** What can be chosen from; names are known once one of a kind was allowed. */
export async function devices(): Promise<Devices> {
  const found = await navigator.mediaDevices.enumerateDevices()
  const of = (kind: MediaDeviceKind, word: string) =>
    found.filter((each) => each.kind === kind && each.deviceId).map((each, n) => ({ id: each.deviceId, name: each.label || `${word} ${n + 1}` }))
  return { cameras: of('videoinput', 'Camera'), microphones: of('audioinput', 'Microphone'), speakers: of('audiooutput', 'Loudspeaker') }
}
