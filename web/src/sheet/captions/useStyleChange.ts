import { computed, shallowRef } from 'vue'
import type { Choices } from '@/shared/useChoices'
import type { Doc } from '@/document/useDocument'
import { useStyles, type CaptionStyle } from './useStyles'

export type ChooseStyle = (key: string | null, style: CaptionStyle | null) => Promise<unknown>

const CHANGED = 'changed' // the key of a style that is one clip's alone

/** The style of a clip's captions as it is `now`, and changing it for this clip. `kept` is the workspace's own that it is. */
export function useStyleChange(sheet: () => Doc['sheet'], choices: () => Choices, choose: ChooseStyle) {
  const { styles, add, change, remove } = useStyles()
  const kept = computed(() => styles.value.find((each) => each.key === sheet().captions))
  const sent = shallowRef<CaptionStyle | null>(null) // what was changed and has not come back yet
  const now = computed(() => sent.value ?? sheet().style ?? choices().captions[sheet().captions ?? ''])

  function changed(style: CaptionStyle) {
    const key = kept.value ? style.key : CHANGED
    const made = { ...style, key, name: kept.value || sent.value || sheet().style ? style.name : `${style.name}, changed` }
    sent.value = made
    void choose(key, made).finally(() => { if (sent.value === made) sent.value = null })
  }

  return { styles, add, change, remove, kept, now, changed }
}
