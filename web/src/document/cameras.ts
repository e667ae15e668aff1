/** The second of another camera at a second of the recording that it is one of. */
export const secondOf = (camera: { offset: number; drift: number }, seconds: number) => Math.max((seconds - camera.offset) / (1 + camera.drift), 0)
