<script setup lang="ts">
import { computed, provide, useTemplateRef, watch } from 'vue'
import CommandButton from '@/commands/CommandButton.vue'
import LoudnessMeter from '@/player/LoudnessMeter.vue'
import Transport from '@/player/Transport.vue'
import BringInLine from '@/recordings/BringInLine.vue'
import { jobsOf, prepareAgain } from '@/recordings/recording'
import { cancelJob } from '@/shared/jobs'
import { tellError } from '@/shared/tell'
import Stage from '@/stage/Stage.vue'
import { STAGE } from '@/stage/stage'
import { chooseStyle } from './captions/actions'
import CaptionHandle from './captions/CaptionHandle.vue'
import { HANDLES } from './kinds'
import type { Content } from '@/document/useDocument'
import type { SheetPage } from './useSheetPage'

/** The picture of a clip with all that can be moved on it, and how it is played. */
const props = defineProps<{ page: SheetPage }>()
const { doc, choices, player, drawer, laying, isThere, seen, guarded, preparing, pin, picture, letters, large } = props.page

const stage = useTemplateRef<InstanceType<typeof Stage>>('stage')
watch(stage, (there) => {
  picture.value = there?.picture ?? null
  letters.value = there?.words ?? null
}, { flush: 'post' })
provide(STAGE, picture)

/** The thing whose settings are open: it can be moved on the stage while it is seen there. */
const movable = computed(() => {
  const [own, drawn] = [laying.own.value, laying.drawn.value]
  return drawer.value === 'layer' && own && drawn && isThere(own.id) ? { ...own, drawn: drawn.content } : null
})

/** Where part of the picture is out of view it can be dragged at any time: that frames the selected words, or the phrase that is shown. */
const reframes = computed(() => {
  if (drawer.value === 'captions' || !seen.value || (seen.value.wide > 0.99 && seen.value.high > 0.99)) return null
  return { ...laying.defaultsOf('framing'), mode: 'speaker' } as Extract<Content, { kind: 'framing' }>
})

async function act(work: Promise<unknown>) {
  await work.catch(tellError)
  await preparing.refetch()
}
</script>

<template>
  <Stage ref="stage" v-slot="{ safe }" :doc="doc" :guarded="guarded">
    <CaptionHandle v-if="doc?.sheet.captions && choices && safe && drawer === 'captions'" :style="safe" :doc="doc" :choices="choices" :choose-style="chooseStyle(page)" />
    <component
      :is="HANDLES[movable.content.kind]" v-if="movable && doc && HANDLES[movable.content.kind]" :layer="movable.id" :content="movable.content" :drawn="movable.drawn" :seen="seen"
      :fields="choices?.contents[movable.content.kind]?.properties ?? {}" :doc="doc" @change="laying.change" @pin="pin"
    />
    <component :is="HANDLES.framing" v-else-if="reframes && doc" quiet :content="reframes" :drawn="reframes" :seen="seen" :fields="choices?.contents.framing?.properties ?? {}" :doc="doc" @pin="pin" />
  </Stage>
  <BringInLine
    v-if="preparing.data.value && !preparing.data.value.playable" :jobs="jobsOf(preparing.data.value, 'bringing in')"
    name="Preview" @cancel="act(cancelJob($event))" @retry="act(prepareAgain(preparing.data.value))"
  />
  <p v-if="!player.coloured.value" class="quiet" role="status">Colours as they were filmed (Y shows them as set)</p>
  <p v-if="doc?.preparing" class="quiet" role="status">Sound is being prepared…</p>
  <LoudnessMeter v-if="doc" :plan="doc.plan" :target="doc.outlet.lufs!" :moments="player.moments.value" :playing="player.playing.value" :level="doc.level" @seek="player.show" />
  <Transport
    :time="player.time.value" :length="player.length.value" :playing="player.playing.value" :ready="player.ready.value"
    @toggle="player.toggle" @seek="player.seek"
  >
    <CommandButton id="large" text :aria-label="large ? 'Smaller preview' : 'Large preview'" :aria-pressed="large">
      <svg viewBox="0 0 16 16" width="14" height="14" aria-hidden="true"><path :d="large ? 'M2 6h4V2M14 10h-4v4' : 'M9 2h5v5M7 14H2V9'" fill="none" stroke="currentColor" stroke-width="1.6" /></svg>
    </CommandButton>
  </Transport>
</template>
