<script setup lang="ts">
import { useElementHover, useFocus } from '@vueuse/core'
import { computed, ref } from 'vue'
import { clock } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import { assetFile } from '@/api/files'
import type { Asset, StockItem } from './useShelf'
import SoundWave from '@/player/SoundWave.vue'

/** Something on the Shelf or in the stock library: a button with a picture, which moves (or is heard) while it is pointed at or has the focus. */
const props = defineProps<{ item: Asset | StockItem; chosen?: boolean; choosing?: boolean /* to be used now: what may not be cannot be chosen */ }>()
defineEmits<{ pick: [] }>()

const choices = useChoices()
const button = ref<HTMLButtonElement | null>(null)
const pointed = useElementHover(button)
const { focused } = useFocus(button)
const isSound = computed(() => props.item.kind === 'sound')
const lively = computed(() => pointed.value || focused.value)
const own = computed(() => ('ready' in props.item ? props.item : null))
const seconds = computed(() => (props.item.seconds ? clock(props.item.seconds, props.item.seconds < 3) : ''))
const still = computed(() => {
  if (!own.value) return `/api/stock/${props.item.id}/preview${lively.value && !isSound.value ? '?moving=true' : ''}`
  return own.value.kind === 'video' || isSound.value || !own.value.ready ? '' : assetFile(own.value.id)
})
/** What is heard while it is pointed at or has the focus. */
const playing = ref(false) // by its button
const heard = computed(() => (!isSound.value || !(lively.value || playing.value) ? '' : !own.value ? `/api/stock/${props.item.id}/preview?moving=true` : own.value.ready ? `/api/recordings/${own.value.key}/files/working` : ''))
const across = computed(() => choices.value?.thumbs_across ?? 1)
</script>

<template>
  <div class="around">
  <button ref="button" class="card" :class="{ chosen, clear: item.kind === 'sticker', refused: own?.refusal }" :aria-pressed="chosen" :disabled="choosing && !!own?.refusal" :title="own?.refusal ? `${item.name}: ${own.refusal}` : item.name" data-test="shelf-item" @click="$emit('pick')">
    <span class="seen">
      <img v-if="still" :src="still" alt="" loading="lazy" :class="{ moving: own?.moves }">
      <SoundWave v-else-if="isSound && own?.ready" :recording="own.key" ready />
      <template v-else-if="own?.ready">
        <video v-if="lively" :src="`/api/recordings/${own.key}/files/working`" muted autoplay loop playsinline></video>
        <i v-else :style="{ backgroundImage: `url(/api/recordings/${own.key}/files/thumbs)`, backgroundSize: `${across * 100}% auto` }"></i>
      </template>
      <span v-else class="waits">{{ own?.job?.state === 'failed' ? 'Could not be prepared' : 'Being prepared…' }}</span>
      <audio v-if="heard" :src="heard" autoplay @ended="playing = false"></audio>
      <b v-if="seconds">{{ seconds }}</b>
      <span v-if="own?.favourite" class="star" role="img" aria-label="A favourite">★</span>
    </span>
    <span class="name">{{ item.name }}</span>
    <span class="terms quiet" :class="{ alarm: own?.refusal }">{{ own?.refusal ? `Not to be used: ${own.refusal}` : item.told }}</span>
  </button>
  <button v-if="isSound" class="play" :aria-pressed="playing" :aria-label="`${playing ? 'Stop' : 'Play'} ${item.name}`" @click="playing = !playing">{{ playing ? '■' : '▶' }}</button>
  </div>
</template>

<style scoped>
.around { position: relative; display: grid; min-width: 0; }
.play { position: absolute; top: 8px; left: 8px; width: 26px; height: 26px; padding: 0; border: 1px solid var(--rule); border-radius: 50%; background: var(--paper); color: var(--ink); font-size: 11px; cursor: pointer; }
.card { display: flex; flex-direction: column; gap: 2px; min-width: 0; padding: 4px; border: 1px solid var(--rule); border-radius: 4px; background: none; font-size: 13px; text-align: left; cursor: pointer; }
.card.chosen { border-color: var(--pencil); box-shadow: 0 0 0 1px var(--pencil); }
.refused .seen, .refused .name { opacity: 0.45; }
.card:disabled { cursor: not-allowed; }
.seen { position: relative; display: block; width: 100%; aspect-ratio: 16 / 9; background: var(--paper-2); overflow: hidden; }
img, video, i { display: block; width: 100%; height: 100%; object-fit: cover; }
.clear img { padding: 6px; object-fit: contain; }
.clear img.moving { width: auto; max-width: 100%; margin: 0 auto; object-fit: cover; object-position: top; aspect-ratio: 1; }
b { position: absolute; right: 4px; bottom: 4px; padding: 0 4px; background: var(--paper); font: 12px var(--mono); }
.star { position: absolute; top: 2px; left: 6px; color: var(--ink); font-size: 15px; }
.waits { position: absolute; inset: 0; display: grid; place-items: center; padding: 4px; color: var(--ink-2); text-align: center; }
.name, .terms { max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.terms { min-height: 1.3em; font-size: 12px; }
.alarm { color: var(--alarm); }
</style>
