<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { clock } from '@/shared/format'
import { integrated, shortTerm, type Moment } from './loudness'
import type { Plan } from './timeline'

/** How loud a clip is while it plays, beside what its outlet wants; before that, what it comes to. */
const props = defineProps<{ plan: Plan; target: number; moments: readonly Moment[]; playing: boolean; level: Schemas['DocumentOut']['level'] }>()
defineEmits<{ seek: [seconds: number] }>()

const [LOW, HIGH] = [-40, 0] // LUFS at either end
const share = (lufs: number) => `${(100 * (Math.min(Math.max(lufs, LOW), HIGH) - LOW)) / (HIGH - LOW)}%`
const powers = computed(() => props.moments.map((each) => each.power))
const now = computed(() => (props.playing ? shortTerm(powers.value) : null))
const whole = computed(() => (props.moments.length ? integrated(powers.value) : null))
const peak = computed(() => 20 * Math.log10(Math.max(...props.moments.map((each) => each.peak), 1e-6)))
const off = computed(() => (props.plan.loudness == null ? 0 : props.plan.loudness - props.target))
const told = computed(() => {
  if (props.playing && whole.value !== null) return `${(now.value ?? LOW).toFixed(1)} now, ${whole.value.toFixed(1)} so far, peak ${peak.value.toFixed(1)} dB`
  if (props.plan.loudness == null) return ''
  const apart = Math.abs(off.value).toFixed(1)
  return `Comes to ${props.plan.loudness.toFixed(1)} LUFS${apart === '0.0' ? '' : `, ${apart} LU ${off.value < 0 ? 'below' : 'above'} the outlet`}`
})
/** The first place that is too quiet, and the first that is too loud. */
const places = computed(() => [{ what: 'quiet', all: props.level?.quiet ?? [] }, { what: 'loud', all: props.level?.loud ?? [] }].flatMap(({ what, all }) =>
  all.length ? [{ what: all.length > 1 ? `${what} ${all.length} times, first at` : `${what} at`, at: all[0]![0]! }] : []))
</script>

<template>
  <div v-if="told" class="meter" :title="`Loudness of the clip. The outlet wants ${target} LUFS.`" data-test="meter">
    <span class="bar"><i :class="{ loud: (now ?? LOW) > (level?.too_loud ?? HIGH) }" :style="{ width: share(now ?? LOW) }"></i><b :style="{ left: share(target) }"></b></span>
    <span class="quiet time">{{ told }}<template v-if="!playing"><template v-for="each in places" :key="each.what">, <button class="link" @click="$emit('seek', each.at)">{{ each.what }} {{ clock(each.at, false) }}</button></template></template></span>
  </div>
</template>

<style scoped>
.meter { display: flex; flex: none; flex-direction: column; gap: 2px; }
.bar { position: relative; height: 6px; background: var(--rule); }
i { position: absolute; top: 0; bottom: 0; left: 0; background: var(--moss); }
i.loud { background: var(--rust); }
b { position: absolute; top: -2px; bottom: -2px; width: 2px; background: var(--ink); }
.time { overflow: hidden; font-size: 12px; text-overflow: ellipsis; white-space: nowrap; }
</style>
