<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { clock } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import type { Doc } from '@/document/useDocument'
import { fps, stretchAt, toSource } from '@/player/timeline'
import StripSlider from '@/shared/StripSlider.vue'

/** The whole clip from left to right: thumbnails, joins, the outlet's limit, where you are. */
const props = defineProps<{ doc: Doc; time: number; beats?: boolean /* whether those of the music are shown */ }>()
const emit = defineEmits<{ seek: [seconds: number] }>()

const choices = useChoices()
const across = computed(() => choices.value?.thumbs_across ?? 1)
const down = computed(() => choices.value?.thumbs_down ?? 1)
const strip = ref<HTMLElement | null>(null)
const { width } = useElementSize(strip)

/** As long as the clip; the outlet's limit is there where that is near, or passed. */
const NEAR = 1.15
const limited = computed(() => props.doc.outlet.longest < props.doc.seconds * NEAR)
const longest = computed(() => Math.max(props.doc.seconds, limited.value ? props.doc.outlet.longest : 0) * 1.01)
/** What is laid, lane by lane, as thin strips. */
const strips = computed(() => Object.keys(choices.value?.lanes ?? {}).slice(0, 3).map((lane) => ({
  lane, bars: props.doc.bars.filter((bar) => bar.lane === lane && bar.start !== null && bar.end !== null && (!bar.whole || lane === 'sound')),
})))
const at = (seconds: number) => `${(seconds / longest.value) * 100}%`
const joins = computed(() => (props.doc.plan.stretches ?? []).slice(1).map((each) => each.frame / fps(props.doc.plan)))
const markers = computed(() => (props.doc.plan.markers ?? []).map((each) => ({ ...each, at: each.first / fps(props.doc.plan) })))

/** One thumbnail for each 72 pixels of clip, from the picture nearest to what is shown there. */
const pictures = computed(() => {
  const plan = props.doc.plan
  const count = Math.floor(((props.doc.seconds / longest.value) * width.value) / 72)
  return Array.from({ length: count }, (_, n) => {
    const seconds = ((n + 0.5) / count) * props.doc.seconds
    const recording = props.doc.sources.find((each) => each.id === stretchAt(plan, seconds)?.recording)
    if (!recording?.has_picture) return {}
    const all = across.value * down.value
    const place = Math.min(Math.floor((toSource(plan, seconds) / recording.duration) * all), all - 1)
    return {
      backgroundImage: `url(/api/recordings/${recording.id}/files/thumbs)`,
      backgroundSize: `${across.value * 72}px ${down.value * 40.5}px`,
      backgroundPosition: `${(place % across.value) * -72}px ${Math.floor(place / across.value) * -40.5}px`,
    }
  })
})

/** How loud it is from moment to moment, as a line over the thumbnails: at the top what is at full scale. */
const [LOWEST, HIGH] = [-50, 44] // LUFS at the bottom; pixels
const level = computed(() => {
  const { step, lufs } = props.doc.level ?? { step: 1, lufs: [] }
  return lufs.map((each, n) => `${Math.min((n + 0.5) * step, props.doc.seconds)},${(HIGH * Math.max(each, LOWEST)) / LOWEST}`).join(' ')
})
const troubled = computed(() => (['quiet', 'loud'] as const).flatMap((what) => (props.doc.level?.[what] ?? []).map(([from, to]) => ({ what, from, to }))))

const seek = (seconds: number) => emit('seek', Math.min(seconds, props.doc.seconds))
</script>

<template>
  <div class="ruler">
    <div ref="strip" class="strip">
      <div class="pictures" :style="{ width: at(doc.seconds) }">
        <span v-for="(each, n) in pictures" :key="n" :style="each"></span>
      </div>
      <svg v-if="level" class="level" :viewBox="`0 0 ${doc.seconds} ${HIGH}`" :style="{ width: at(doc.seconds) }" preserveAspectRatio="none" aria-hidden="true" data-test="level"><polyline class="under" :points="level" /><polyline :points="level" /></svg>
      <i v-for="each in troubled" :key="each.what + each.from" class="troubled" :class="each.what" :style="{ left: at(each.from), width: at(each.to - each.from) }"></i>
      <template v-if="beats"><i v-for="beat in doc.beats" :key="beat" class="beat" :style="{ left: at(beat) }" data-test="beat"></i></template>
      <i v-for="join in joins" :key="join" class="join" :style="{ left: at(join) }"></i>
      <i v-for="each in markers" :key="each.layer" class="marker" :style="{ left: at(each.at) }" :title="each.note"></i>
      <template v-for="({ lane, bars }, n) in strips" :key="lane">
        <i v-for="bar in bars" :key="bar.layer" class="strip-bar" :class="lane" :style="{ left: at(bar.start!), width: at(bar.end! - bar.start!), top: `${46 + n * 5}px` }"></i>
      </template>
      <i v-if="limited" class="limit" :class="{ early: doc.outlet.longest < longest / 12 }" :style="{ left: at(doc.outlet.longest) }"><b>{{ clock(doc.outlet.longest, false) }}</b></i>
      <i class="head" :style="{ left: at(time) }"></i>
      <StripSlider :time="time" :length="longest" label="Place in the clip" @seek="seek" />
    </div>
  </div>
</template>

<style scoped>
.ruler { flex: none; padding: 8px 20px 8px; border-top: 1px solid var(--rule); }
.strip { position: relative; height: 60px; background: var(--paper-2); cursor: pointer; }
.strip > :not(input) { pointer-events: none; }
.strip:has(:focus-visible) { outline: 2px solid var(--pencil); outline-offset: 2px; }
.pictures { display: flex; height: 44px; overflow: hidden; background: #d9d2c3; }
.pictures span { flex: 1 0 auto; width: 72px; height: 40.5px; margin: 2px 0; }
i { position: absolute; top: 0; bottom: 0; width: 2px; transform: translateX(-1px); }
.join { top: 34px; bottom: auto; height: 10px; background: var(--pencil); }
.beat { bottom: auto; width: 1px; height: 7px; background: var(--moss); }
.marker { bottom: auto; height: 10px; width: 6px; background: var(--rust); border-radius: 0 0 3px 3px; }
.level { position: absolute; top: 0; left: 0; height: 44px; }
polyline { fill: none; stroke: var(--ink); stroke-width: 1.2; vector-effect: non-scaling-stroke; }
.under { stroke: var(--paper); stroke-width: 3; opacity: 0.75; }
.troubled { top: 40px; bottom: auto; height: 4px; transform: none; background: var(--alarm); }
.troubled.quiet { background: var(--pencil); }
.limit { background: var(--alarm); }
.limit b { position: absolute; right: 5px; bottom: 2px; color: var(--alarm); font: 600 12px var(--mono); }
.limit.early b { right: auto; left: 5px; }
.strip-bar { bottom: auto; height: 4px; transform: none; border-radius: 2px; background: var(--pencil); }
.strip-bar.screen { background: var(--plum); }
.strip-bar.sound { background: var(--moss); }
.head { top: -5px; background: var(--ink); }
</style>
