<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { NButton } from 'naive-ui'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import ExportDialog from '@/components/dialogs/ExportDialog.vue'
import HandedBar from '@/components/handoff/HandedBar.vue'
import HandedControl from '@/components/handoff/HandedControl.vue'
import HandedDoor from '@/components/handoff/HandedDoor.vue'
import HandedTime from '@/components/handoff/HandedTime.vue'
import PlainPicture from '@/components/handoff/PlainPicture.vue'
import CoreWatch from '@/components/studio/CoreWatch.vue'
import { newId } from '@/composables/ids'
import { message } from '@/composables/notify'
import { useReadings } from '@/composables/readings'
import { useSounding } from '@/composables/sounding'
import type { Id } from '@/core/types'
import { assetsFrom } from '@/net/assets'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'

/** What a colleague gets: the picture, the controls that were handed off, play, export; and readings that hold what they set. */
const props = defineProps<{ address?: string; id?: string; composition?: string }>()
const doc = useDocument()
const playback = usePlayback()
const readings = useReadings()
const router = useRouter()
const OtherPicture = defineAsyncComponent(() => import('@/components/handoff/OtherPicture.vue'))
const compared = ref<Id | null>(null)
const loop = useLocalStorage('wunderkammer:handed-loop', true)
const time = useTemplateRef<InstanceType<typeof HandedTime>>('time')

const at = computed(() => '~' + (props.address ?? `${props.id}/${props.composition}`))
const locked = computed(() => doc.status === 'failed' && doc.failure.startsWith('A password is required for this hand-off'))
function open(): void {
  assetsFrom(props.address ? `/api/hand-offs/${props.address}/assets/` : undefined)
  void doc.open(at.value)
}
watch(at, open, { immediate: true })
onBeforeUnmount(() => {
  doc.close()
  assetsFrom()
})
useSounding()

/** There is always a reading that what is set belongs to. */
let making = false
watch([() => doc.status, () => doc.compositionId, () => readings.list.value.length], async () => {
  if (doc.status !== 'ready' || making || readings.open.value) return
  making = true
  const [first] = readings.list.value
  if (first) await readings.select(first.id)
  else await readings.add('First reading')
  making = false
})
watch(
  () => readings.open.value?.id,
  (id) => id && void router.replace({ query: { reading: id } }),
)
// What was here when a backup took its place becomes a reading of its own.
watch(
  () => [doc.leftOver, doc.status] as const,
  async ([left, status]) => {
    if (!left || status !== 'ready') return
    doc.leftOver = null
    const [piece] = left.items ?? []
    const name = readings.free(`${left.name.slice(0, 150)} (before a backup was restored)`)
    if (piece) await readings.bring({ ...left, id: newId(), name, items: [{ ...piece, id: newId() }] })
    message.info(`What you had here is kept as the reading “${name}”.`, { duration: 0, closable: true })
  },
)

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const on = event.target as HTMLElement
  if (doc.status !== 'ready' || event.defaultPrevented || on.closest('input, textarea, [contenteditable], [role=dialog], [role=combobox]'))
    return
  const key = (event.ctrlKey || event.metaKey ? 'Ctrl ' : '') + (event.shiftKey ? 'Shift ' : '') + event.key
  const step = event.shiftKey ? 10 : 1
  const does: Record<string, () => void> = {
    ' ': () => time.value?.toggle(),
    ArrowLeft: () => playback.seek(playback.frame - step),
    ArrowRight: () => playback.seek(playback.frame + step),
    'Shift ArrowLeft': () => playback.seek(playback.frame - step),
    'Shift ArrowRight': () => playback.seek(playback.frame + step),
    Home: () => playback.seek(0),
    End: () => playback.seek(playback.frames - 1),
    'Ctrl z': () => void doc.undo(),
    'Ctrl Shift Z': () => void doc.redo(),
  }
  if (key === ' ' && on.closest('button, [role=switch]')) return // it presses that
  if (/Arrow|Home|End/.test(key) && on.closest('[role=slider], [tabindex="0"]:not(body)')) return // it moves that
  const run = does[key]
  if (!run) return
  event.preventDefault()
  run()
})
const touched = computed(() => readings.controls.value.filter(readings.changed))
watch(
  () => readings.whole.value?.name,
  (name) => (document.title = name ? `${name} · handed off` : 'Wunderkammer'),
)
</script>

<template>
  <HandedDoor v-if="locked && address" :address="address" @in="open" />
  <main v-else-if="doc.status === 'failed'" class="failed">
    <h1>This hand-off can't be opened</h1>
    <p>{{ doc.failure }}</p>
    <p class="quiet">Ask whoever sent you the address for a new one.</p>
  </main>
  <main v-else class="page">
    <HandedBar v-model:compared="compared" class="bar" />
    <section class="stage" aria-label="Picture">
      <div class="pictures" :class="{ two: compared }">
        <PlainPicture :named="!!compared" />
        <OtherPicture v-if="compared && doc.compositions.some((c) => c.id === compared)" :id="compared" />
      </div>
      <HandedTime ref="time" v-model:loop="loop" />
    </section>
    <section class="controls" aria-label="Controls">
      <p v-if="!readings.controls.value.length && doc.status === 'ready'" class="quiet">No controls were handed off yet.</p>
      <template v-if="readings.piece.value">
        <template v-for="(part, k) in readings.parts.value" :key="k">
          <h2 v-if="part.heading">{{ part.heading }}</h2>
          <HandedControl v-for="c in part.controls" :key="c.id" :control="c" />
        </template>
      </template>
      <p v-if="readings.kept.value.length" class="kept">
        {{ readings.kept.value.length === 1 ? 'A value is' : `${readings.kept.value.length} values are` }} kept for controls that are not
        handed off any more. They come back when the controls do.
      </p>
      <footer v-if="readings.controls.value.length">
        <NButton size="small" :disabled="!touched.length" @click="readings.reset(...touched)">Reset all</NButton>
        <span class="quiet">{{ touched.length }} of {{ readings.controls.value.length }} changed</span>
      </footer>
    </section>
    <p v-if="!doc.shown" class="opening quiet" role="status">Opening…</p>
  </main>
  <ExportDialog />
  <CoreWatch />
</template>

<style scoped>
.page {
  height: 100vh;
  display: grid;
  grid-template: 44px minmax(0, 1fr) / minmax(0, 1fr) 420px;
  background: var(--card);
}
.bar {
  grid-column: 1 / 3;
}
.stage {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  padding: 24px 40px;
  gap: 16px;
  background: var(--surround);
  min-width: 0;
}
.pictures {
  display: grid;
  gap: 8px;
  min-height: 0;
}
.pictures.two {
  grid-template-rows: 1fr 1fr;
}
.controls {
  overflow: hidden auto;
  padding: 12px 18px;
  border-left: 1px solid var(--line);
}
h2 {
  font: 600 15px var(--face-heading);
  margin: 14px 0 4px;
}
h2:first-child {
  margin-top: 4px;
}
.kept {
  color: var(--ochre);
  font-size: 12px;
}
footer {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 14px 0;
}
.failed {
  height: 100vh;
  display: grid;
  place-content: center;
  text-align: center;
}
.failed h1 {
  font: 600 20px var(--face-heading);
}
.opening {
  position: fixed;
  inset: 44px 420px 0 0;
  display: grid;
  place-items: center;
  margin: 0;
}
@media (max-width: 900px) {
  .page {
    height: auto;
    min-height: 100vh;
    grid-template: 44px 56vh auto / minmax(0, 1fr);
  }
  .bar {
    grid-column: 1;
  }
  .stage {
    padding: 12px;
  }
}
</style>
