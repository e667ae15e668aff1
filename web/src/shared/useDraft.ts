import { ref, watch, type Ref } from 'vue'

/** What a person is changing is theirs until they keep it: what comes from elsewhere meanwhile does not take it away. */
export function useDraft<T>(value: () => T, send: (value: T) => void) {
  const draft = ref(value()) as Ref<T>
  let changing = false
  watch(value, (now) => { if (!changing) draft.value = now })

  return {
    draft,
    begin: () => { changing = true },
    keep: () => {
      changing = false
      if (draft.value !== value()) send(draft.value)
    },
  }
}
