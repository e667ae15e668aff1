import { expect, test } from 'vitest'
import { nextTick, ref } from 'vue'
import { useDraft } from './useDraft'

test('what is typed stays while other things change, and is sent once when it is kept', async () => {
  const value = ref('Note')
  const sent: string[] = []
  const { draft, begin, keep } = useDraft(() => value.value, (text) => sent.push(text))
  begin()
  draft.value = 'Ask for'
  value.value = 'from elsewhere'
  await nextTick()
  expect(draft.value).toBe('Ask for')
  draft.value = 'Ask for a photo'
  keep()
  keep()
  expect(sent).toEqual(['Ask for a photo', 'Ask for a photo'])
  value.value = 'Ask for a photo'
  keep()
  expect(sent).toHaveLength(2)
})

test('what comes from elsewhere is shown where nothing is being changed', async () => {
  const value = ref(0.2)
  const { draft, begin, keep } = useDraft(() => value.value, () => {})
  value.value = 0.5
  await nextTick()
  expect(draft.value).toBe(0.5)
  begin()
  keep()
  value.value = 0.7
  await nextTick()
  expect(draft.value).toBe(0.7)
})
