<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'
import { useDrawers } from '@/composables/drawers'
import { provideNearTracks } from '@/composables/nearTracks'
import { useSamples } from '@/composables/samples'
import { useDocument } from '@/stores/document'
import { useLooks } from '@/stores/looks'
import { usePlayback } from '@/stores/playback'
import { useTimeline } from '@/stores/timeline'
import { useWorkspace } from '@/stores/workspace'
import ControlForm from './ControlForm.vue'
import FirstSteps from './FirstSteps.vue'
import DeskDrawer from './DeskDrawer.vue'
import LookStrip from './LookStrip.vue'
import MarkerRow from './MarkerRow.vue'
import PinsElsewhere from './PinsElsewhere.vue'
import PinFrame from './PinFrame.vue'
import PinTools from './PinTools.vue'
import SoundStrip from './SoundStrip.vue'
import SplitHandle from '@/components/shared/SplitHandle.vue'
import TimeRuler from './TimeRuler.vue'

const doc = useDocument()
const playback = usePlayback()
const timeline = useTimeline()
const workspace = useWorkspace()
const { drawers } = useDrawers()
const looks = useLooks()
const ruler = useTemplateRef<HTMLDivElement>('ruler')
const body = useTemplateRef<HTMLDivElement>('body')
const frame = useTemplateRef<InstanceType<typeof PinFrame>>('frame')
const { width } = useElementSize(ruler)
const { width: whole } = useElementSize(body)
watch(width, (w) => w && (timeline.width = w))

const tall = computed(() => workspace.performing)
const marked = computed(() => !!doc.composition?.markers?.length)
const sounds = computed(() => doc.ofKind('sound').filter((id) => doc.items.get(id)?.sound))
const heard = useSamples(() => (tall.value ? [] : sounds.value))
/** How many sounds have room under the ruler; the others are scrolled to. */
const most = 3
const near = provideNearTracks()
/** The width of the rows: a share of the panel, but never less than a fader needs. */
const least = 430
const column = computed({
  get: () => Math.round(Math.max(least, Math.min(whole.value - 200, workspace.deskShare * whole.value))),
  set: (px) => (workspace.deskShare = px / (whole.value || 1)),
})
const samples = useSamples(() => (tall.value ? [] : drawers.value.filter(near)))

/** Every control back to its default, but for what is pinned there or driven. */
function resetAll(): void {
  void doc.operations(
    ...drawers.value.flatMap((item) =>
      (doc.items.get(item)?.controls ?? []).map((c) => ({ op: 'own.set' as const, item, property: c.id as string, value: null })),
    ),
  )
}

/** A press on a free place of the tracks draws a frame over them. */
function press(event: PointerEvent): void {
  if (event.button === 0 && (event.target as Element).matches('[data-track], .head.track')) frame.value?.draw(event)
}

function wheel(event: WheelEvent): void {
  const left = ruler.value?.getBoundingClientRect().left ?? 0
  if (!tall.value) timeline.wheel(event, event.clientX - left)
}
</script>

<template>
  <section class="panel" aria-label="Desk" data-panel="desk">
    <header>
      <PinTools v-if="!tall" />
      <span class="space" />
      <button class="plain add" :aria-pressed="tall" title="A tall panel to perform on · D" @click="workspace.performing = !tall">
        Perform
      </button>
      <button v-if="drawers.length" class="plain add" title="Keep what every control stands at, by a name" @click="looks.keep('')">
        Keep look
      </button>
      <button v-if="drawers.length" class="plain add" title="Every control back to its default" @click="resetAll">Reset all</button>
      <button class="plain add" title="New control · C" @click="workspace.addingControl = true">+ Control</button>
    </header>
    <div
      ref="body"
      class="body"
      :class="{ tall }"
      :style="{ '--column': column + 'px', '--ruler': `${25 + (marked ? 24 : 0) + 25 * Math.min(most, sounds.length)}px` }"
      @wheel="wheel"
      @pointerdown="press"
    >
      <template v-if="!tall">
        <div class="corner" />
        <div ref="ruler" class="scale" data-ruler>
          <TimeRuler />
          <MarkerRow v-if="marked" />
          <div v-if="sounds.length" class="sounds">
            <SoundStrip v-for="id in sounds" :key="id" :item="id" :samples="heard.get(id)" />
          </div>
        </div>
      </template>
      <template v-if="looks.of('').length">
        <LookStrip of="" label="Looks of all drawers" />
        <div v-if="!tall" class="beside" />
      </template>
      <DeskDrawer v-for="id in drawers" :key="id" :item="id" :samples="samples" :tall="tall" />
      <PinsElsewhere v-if="!tall" />
      <FirstSteps />
      <template v-if="!tall">
        <div v-if="drawers.length" class="line" aria-hidden="true" :style="{ transform: `translateX(${timeline.x(playback.frame)}px)` }" />
        <PinFrame v-if="body" ref="frame" :body="body" />
        <SplitHandle
          v-model="column"
          class="split"
          direction="right"
          label="Width of the controls"
          :min="least"
          :max="Math.max(least, whole - 200)"
        />
      </template>
    </div>
    <ControlForm />
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 30px;
  padding: 0 12px;
  border-bottom: 1px solid var(--line);
  background: var(--sunk);
  flex: none;
}
.space {
  flex: 1;
}
.add {
  color: var(--brassText);
  font-size: 12px;
  padding: 2px 6px;
  border-radius: 4px;
  white-space: nowrap;
}
.add:hover {
  background: var(--picked);
}
.body {
  position: relative;
  flex: 1;
  overflow: hidden auto;
  display: grid;
  grid-template-columns: var(--column) minmax(0, 1fr);
  align-content: start;
  min-height: 0;
  scrollbar-gutter: stable;
  scroll-padding-top: var(--ruler);
  isolation: isolate;
}
.corner {
  position: sticky;
  top: 0;
  z-index: 4;
  height: var(--ruler);
  padding: 4px 12px;
  font-size: 11px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.scale {
  position: sticky;
  top: 0;
  z-index: 4;
  height: var(--ruler);
  background: var(--card);
  border-bottom: 1px solid var(--line);
  overflow: hidden;
}
.sounds {
  max-height: 75px;
  overflow-y: auto;
}
.beside {
  grid-column: 2;
  border-bottom: 1px solid var(--line);
}
.body.tall {
  display: block;
  columns: 2 480px;
  column-gap: 0;
  column-rule: 1px solid var(--line);
}
.split {
  position: absolute;
  top: 0;
  bottom: 0;
  left: var(--column);
  width: 1px;
  min-height: 100%;
}
.add[aria-pressed='true'] {
  background: var(--picked);
}
.line {
  position: absolute;
  top: var(--ruler);
  bottom: 0;
  left: var(--column);
  width: 0;
  border-left: 1px solid var(--oxblood);
  pointer-events: none;
  z-index: 3;
  min-height: 100%;
}
</style>
