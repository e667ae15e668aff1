import { computed, ref, watch, type Ref } from 'vue'

/** The first of many things, so that a page of hundreds is drawn at once; `more` shows as many again. */
export function useFirst<T>(all: Ref<T[]>, many: number) {
  const most = ref(many)
  watch(() => all.value[0], () => (most.value = many)) // others now
  return { first: computed(() => all.value.slice(0, most.value)), left: computed(() => Math.max(all.value.length - most.value, 0)), more: () => void (most.value += many) }
}
