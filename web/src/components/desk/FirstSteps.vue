<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import IconDone from '~icons/tabler/circle-check'
import IconOpen from '~icons/tabler/circle'
import type { Id } from '@/core/types'
import { tell } from '@/composables/notify'
import { api } from '@/net/api'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useWorkspace } from '@/stores/workspace'

/** What to do first in an empty project: three steps that tick themselves off. */
const doc = useDocument()
const playback = usePlayback()
const workspace = useWorkspace()
const router = useRouter()
const closed = useLocalStorage<string[]>('wunderkammer:first-steps-closed', [])
const played = ref(false)
watch(
  () => playback.playing,
  (on) => (played.value ||= on),
)

const controls = computed(() =>
  doc.controlled.flatMap((id) => (doc.items.get(id)?.controls ?? []).map((c) => ({ id, control: c.id as string }))),
)
const steps = computed(() => [
  {
    text: 'Make a null with a fader.',
    act: 'New control (C)',
    does: () => (workspace.addingControl = true),
    done: controls.value.length > 0,
  },
  {
    text: 'Select an item and drag a cable from the fader’s jack to one of its properties on the Card.',
    done: controls.value.some((c) => (doc.drives[`${c.id}/${c.control}`] ?? 0) > 0),
  },
  {
    text: 'Move the fader and press K to pin it (pins are keyframes); do so at another frame, and press Space to play.',
    done: played.value && controls.value.some((c) => (doc.state(c.id, c.control).pins?.length ?? 0) > 1),
  },
])
// It is for a composition that was opened with no control; it stays until it is done or closed.
const fresh = ref(new Set<Id>())
watch(
  [() => doc.project, () => doc.status, () => doc.compositionId],
  () => {
    if (doc.status === 'ready' && doc.compositionId && !doc.controlled.length) fresh.value.add(doc.compositionId)
  },
  { immediate: true },
)
const shown = computed(() => doc.status === 'ready' && fresh.value.has(doc.compositionId) && !closed.value.includes(doc.project))

function close(): void {
  closed.value = [...closed.value.slice(-50), doc.project]
}
async function example(): Promise<void> {
  try {
    await router.push('/project/' + (await api.example(false)).id)
  } catch (error) {
    tell(error)
  }
}
</script>

<template>
  <section v-if="shown" class="first" aria-label="First steps">
    <ol>
      <li v-for="(s, k) in steps" :key="k" :class="{ done: s.done }">
        <IconDone v-if="s.done" class="tick" aria-label="Done" /><IconOpen v-else class="tick" aria-label="To do" />
        <span>{{ s.text }}</span>
        <button v-if="s.act && !s.done" class="plain act" @click="s.does">{{ s.act }}</button>
      </li>
    </ol>
    <p>
      <button class="plain act" @click="example">Open the example</button>
      <button class="plain act" @click="close">{{ steps.every((s) => s.done) ? 'Done' : 'Hide these steps' }}</button>
    </p>
  </section>
  <p v-else-if="doc.status === 'ready' && !controls.length" class="first">
    Controls live here. <button class="plain act" @click="workspace.addingControl = true">Add the first control</button>
  </p>
</template>

<style scoped>
.first {
  position: relative;
  z-index: 4;
  background: var(--card);
  grid-column: 1 / 3;
  padding: 10px 12px;
  border-bottom: 1px solid var(--line);
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 26px;
}
.tick {
  flex: none;
  color: var(--brass);
}
.done .tick {
  color: var(--verdigris);
}
.done span {
  color: var(--ink2);
}
p {
  margin: 6px 0 0;
}
.act {
  color: var(--brassText);
  padding: 2px 6px;
  min-height: 24px;
  border-radius: 4px;
}
.act:hover {
  background: var(--picked);
}
</style>
