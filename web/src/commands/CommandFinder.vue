<script setup lang="ts">
import { computed, onScopeDispose, ref, watch } from 'vue'
import { offered, takeKeys, useCommands, type Command } from './registry'

/** All that can be done here, with its keys: to be found by its name (Ctrl+K), or read through (?). */
const open = ref(false)
const text = ref('')
const at = ref(0)
const field = ref<{ focus: () => void } | null>(null)
const opener = ref<Element | null>(null)

const found = computed(() => {
  const wanted = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  const seen = new Set<string>()
  return offered().filter((command) => {
    const key = command.label
    if (seen.has(key) || command.id.startsWith('finder')) return false
    seen.add(key)
    return wanted.every((word) => command.label.toLowerCase().includes(word))
  })
})
watch(text, () => (at.value = 0))
onScopeDispose(() => takeKeys(null))

/** What is typed before the field can keep the focus (the dialog takes it while it opens) goes into it all the same. */
function early(event: KeyboardEvent) {
  if (event.key === 'Enter') run(found.value[at.value], event)
  else if (event.key === 'Escape') open.value = false
  else if (event.key === 'Backspace') text.value = text.value.slice(0, -1)
  else if (event.key.length === 1 && !event.ctrlKey && !event.altKey && !event.metaKey) text.value += event.key
}

function opened() {
  field.value?.focus()
  takeKeys(null)
}

function show() {
  opener.value = document.activeElement
  text.value = ''
  open.value = true
  takeKeys(early)
}

function back() {
  ;(opener.value as HTMLElement | null)?.focus?.()
}

/** The dialog has gone: back to where the person was, unless what was run has taken the focus meanwhile. */
function closed() {
  takeKeys(null)
  const now = document.activeElement
  if (!now || now === document.body || now.closest('.el-dialog')) back()
}

function run(command: Command | undefined, event: KeyboardEvent | MouseEvent) {
  if (!command || !(command.enabled?.() ?? true)) return
  open.value = false
  takeKeys(null)
  back()
  command.run(event)
}

function step(by: number) {
  at.value = (at.value + by + found.value.length) % Math.max(found.value.length, 1)
  document.getElementById(`found-${at.value}`)?.scrollIntoView({ block: 'nearest' })
}

useCommands(() => [
  { id: 'finder', label: 'Find a command', keys: ['Ctrl+K', '?'], run: show },
  { id: 'finder-down', label: 'finder', keys: ['Down'], where: '[data-finder]', run: () => step(1) },
  { id: 'finder-up', label: 'finder', keys: ['Up'], where: '[data-finder]', run: () => step(-1) },
  { id: 'finder-run', label: 'finder', keys: ['Enter'], where: '[data-finder]', run: (event) => run(found.value[at.value], event) },
])
</script>

<template>
  <el-dialog v-model="open" title="Commands" width="min(560px, 96vw)" destroy-on-close @opened="opened" @closed="closed">
    <div data-finder>
      <el-input ref="field" v-model="text" placeholder="What do you want to do?" aria-label="What do you want to do?" />
      <ul role="listbox" tabindex="0" aria-label="Commands">
        <li
          v-for="(command, n) in found" :id="`found-${n}`" :key="command.id" role="option" :aria-selected="n === at"
          :class="{ off: !(command.enabled?.() ?? true) }" @click="run(command, $event)"
        >
          <span>{{ command.label }}</span>
          <kbd v-for="key in (command.keys ?? []).slice(0, 2)" :key="key">{{ key }}</kbd>
        </li>
      </ul>
      <p v-if="!found.length" class="quiet">Nothing here is called that.</p>
    </div>
  </el-dialog>
</template>

<style scoped>
ul { max-height: 50vh; margin: 10px 0 0; padding: 0; overflow-y: auto; list-style: none; }
li { display: flex; gap: 6px; align-items: center; padding: 5px 8px; cursor: pointer; }
li span { flex: 1; }
li[aria-selected='true'] { background: var(--paper-2); outline: 1px solid var(--rule); }
li.off { color: var(--ink-2); }
kbd { padding: 1px 6px; border: 1px solid var(--rule); border-radius: 4px; font: 12px var(--mono); }
</style>
