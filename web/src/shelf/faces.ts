import { assetFile } from '@/api/files'

const loaded = new Map<string, Promise<unknown>>()

/** What a font is called in the styles of the page; it is loaded when it is first asked for. `file` is that of one which ships, else it is an asset. */
export function faceOf(key: string, file?: string): string {
  const family = `face-${key}`
  if (!loaded.has(key)) {
    const face = new FontFace(family, `url(${file ? `/static/fonts/${file}` : assetFile(key)})`)
    loaded.set(key, face.load().then((ready) => document.fonts.add(ready)).catch(() => undefined)) // it is read in the usual one then
  }
  return `"${family}"`
}
