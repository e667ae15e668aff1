<script setup lang="ts">
import { computed } from 'vue'
import CommandButton from '@/commands/CommandButton.vue'
import { tooLong } from '@/player/timeline'
import { clock } from '@/shared/format'
import type { SheetPage } from './useSheetPage'

/** What the head of the application shows of a clip: where it is from, what it is called, how long it is, its editions. */
const props = defineProps<{ page: SheetPage }>()
const { doc, home, clip, sheet } = props.page

const over = computed(() => !!doc.value && tooLong(doc.value.outlet, doc.value.seconds))
const stops = computed(() => props.page.proof.open.value.some((each) => each.gravity === 'stops'))
const DRESSED: Record<string, string> = { plain: ', plain', captioned: ', captioned', dressed: '' }
</script>

<template>
  <Teleport defer to="#crumbs">
    <RouterLink v-if="home" :to="{ name: 'desk', params: { id: home.id } }" class="crumb">{{ home.title }}</RouterLink>
    <h1 v-if="doc" class="name"><button class="title" title="Rename" @click="clip.rename">{{ doc.title }}</button></h1>
    <span v-if="doc" class="time length" :class="{ alarm: over }" data-test="length">
      {{ clock(doc.seconds) }} of {{ clock(doc.outlet.longest, false) }}
    </span>
  </Teleport>
  <Teleport defer to="#actions">
    <el-select v-if="doc" :model-value="doc.edition" aria-label="Edition shown" class="outlet" @change="void sheet.show($event)">
      <el-option v-for="each in doc.editions" :key="each.id" :label="each.name + DRESSED[each.dressing]" :value="each.id" />
    </el-select>
    <CommandButton id="editions" class="wide">Editions</CommandButton>
    <CommandButton id="proof" class="proof">Proof<span v-if="page.proof.open.value.length" class="count" :class="{ alarm: stops }" data-test="faults">{{ page.proof.open.value.length }}</span></CommandButton>
    <CommandButton id="export" type="primary" />
  </Teleport>
</template>

<style scoped>
.outlet { width: 140px; }
.count { min-width: 18px; margin-left: 6px; padding: 0 5px; border-radius: 9px; background: var(--paper-2); font-size: 12px; line-height: 18px; text-align: center; }
.crumb { flex: 0 3 auto; min-width: 40px; max-width: 220px; overflow: hidden; color: var(--ink-2); text-overflow: ellipsis; white-space: nowrap; }
.name { min-width: 60px; overflow: hidden; font-size: inherit; }
.title { max-width: min(320px, 100%); padding: 0; overflow: hidden; border: 0; background: none; font-weight: 600; text-overflow: ellipsis; white-space: nowrap; cursor: text; }
.length { flex: none; white-space: nowrap; }
@media (width < 1180px) {
  .crumb { max-width: 120px; }
}
@media (width < 900px) {
  .outlet { width: 104px; }
  .crumb, .wide { display: none; }
}
@media (width < 480px) {
  .outlet { width: 84px; }
  .length, .name, .proof { display: none; } /* a title of three letters tells nothing: it stands in the list; the proof is in the menu of the clip */
}
</style>
