import 'fake-indexeddb/auto'
import { expect, it } from 'vitest'
import { KeptParts } from './kept'

const about = (name: string) => ({ name, script: '', line: 0, by: 'ana' })
const bytes = (...values: number[]) => new Blob([Uint8Array.from(values)])
const read = async (blob: Blob | null) => (blob ? [...new Uint8Array(await blob.arrayBuffer())] : null)

it('gives bytes as they come, across parts, and says when no more come', async () => {
  const kept = await KeptParts.begin(about('one'))
  const first = kept.slice(0, 4) // waits
  await kept.add(bytes(1, 2, 3))
  expect(await read((await first).value)).toEqual([1, 2, 3])
  await kept.add(bytes(4, 5, 6))
  const both = await kept.slice(2, 5)
  expect([await read(both.value), both.done]).toEqual([[3, 4, 5], false])
  const last = kept.slice(6, 9)
  kept.end()
  expect(await last).toEqual({ value: null, done: true })
  expect((await kept.slice(4, 99)).done).toBe(true)
})

it('is there for the next page, but for what has arrived', async () => {
  const kept = await KeptParts.begin(about('two'))
  await kept.add(bytes(1, 2, 3))
  await kept.add(bytes(4, 5))
  await kept.began('/api/uploads/7')
  await kept.arrived(4) // the second part not whole: it stays
  const [left] = (await KeptParts.all('ana')).filter((each) => each.name === 'two')
  expect(left).toMatchObject({ url: '/api/uploads/7', size: 5 })
  const next = await KeptParts.left(left!)
  const { value, done } = await next.slice(4, 99)
  expect([await read(value), done]).toEqual([[5], true])
  await expect(next.slice(0, 99)).rejects.toThrow('beginning')
  await next.forget()
  expect((await KeptParts.all('ana')).filter((each) => each.name === 'two')).toEqual([])
})

it('belongs to who recorded it', async () => {
  await KeptParts.begin(about('three'))
  expect(await KeptParts.all('ben')).toEqual([])
})
