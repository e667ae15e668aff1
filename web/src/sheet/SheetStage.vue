<script setup lang="ts">
import { computed, provide, useTemplateRef, watch } from 'vue'
import CommandButton from '@/commands/CommandButton.vue'
import CommandMenu from '@/commands/CommandMenu.vue'
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
import type { SheetPage } from './useSheetPage'

/** The picture of a clip with all that can be moved on it, and how it is played. */
const props = defineProps<{ page: SheetPage }>()
const { doc, choices, player, drawer, laying, isThere, seen, guarded, preparing, pin, picture, letters } = props.page

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
const captionsNow = computed(() => {
  const sheet = doc.value?.sheet
  return sheet?.captions ? `Captions: ${sheet.style?.name ?? choices.value?.captions[sheet.captions]?.name ?? ''}` : 'No captions'
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
  </Stage>
  <BringInLine
    v-if="preparing.data.value && !preparing.data.value.playable" :jobs="jobsOf(preparing.data.value, 'bringing in')"
    name="Preview" @cancel="act(cancelJob($event))" @retry="act(prepareAgain(preparing.data.value))"
  />
  <p v-if="!player.coloured.value" class="quiet" role="status">Colours as they were filmed (Y shows them as set)</p>
  <p v-if="doc?.preparing" class="quiet" role="status">Sound at another speed is being made…</p>
  <Transport
    :time="player.time.value" :length="player.length.value" :playing="player.playing.value" :ready="player.ready.value"
    @toggle="player.toggle" @seek="player.seek"
  />
  <div class="choices">
    <CommandButton id="captions" size="small">{{ captionsNow }}</CommandButton>
    <span class="grow" />
    <CommandMenu :groups="[['house', 'editions', 'copy-clip', 'copy-dressing'], ['delete-clip']]" text size="small">Clip…</CommandMenu>
  </div>
</template>

<style scoped>
.choices { display: flex; gap: 8px; align-items: center; font-size: 14px; }
.grow { flex: 1; }
</style>
