<script setup lang="ts">
import { useElementSize, useMediaQuery } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { castOf } from '@/composables/cast'
import { useHandling } from '@/composables/handling'
import { usePressing } from '@/composables/pressing'
import { useSight } from '@/composables/sight'
import type { Bounds } from '@/composables/snapping'
import { themeName } from '@/composables/theme'
import type { Frame, Id } from '@/core/types'
import { useBefore } from '@/stores/before'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import { palettes } from '@/theme'
import { Stage, type Actor } from '@/viewport/stage'
import BeforeBar from './BeforeBar.vue'
import BeforePicture from './BeforePicture.vue'
import LaidControls from './LaidControls.vue'
import PathHandles from './PathHandles.vue'
import PointHandles from './PointHandles.vue'
import PoseBar from './PoseBar.vue'
import PosingBar from './PosingBar.vue'
import RecordingBar from './RecordingBar.vue'
import ZoneHandles from './ZoneHandles.vue'
import SelectionHandles from './SelectionHandles.vue'
import StageGuides from './StageGuides.vue'
import TryingBar from './TryingBar.vue'
import StageMarks from './StageMarks.vue'
import VertexMarks from './VertexMarks.vue'
import ViewportTools from './ViewportTools.vue'

const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const before = useBefore()
const host = useTemplateRef<HTMLDivElement>('host')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const vertexMarks = useTemplateRef<InstanceType<typeof VertexMarks>>('vertexMarks')
const { width, height } = useElementSize(host)
const { sight, orbit, fit, lookAround, pan, swing, zoom } = useSight(width, height)
let stage: Stage | null = null
const ready = ref(false)
const drawn = ref(0)
const handling = useHandling(() => stage)
const actors = computed<Actor[]>(() => {
  void doc.layout // what else is read here is read past Vue: nothing of it changes without the layout
  return castOf(doc)
})

function render(): void {
  if (!stage || width.value < 1) return
  if (!stage.render()) return
  if (cast?.length && !pictured) performance.mark('picture') // for who measures how long it took
  pictured ||= !!cast?.length
  // Says which frame is on the screen, for whoever waits for it.
  if (canvas.value && doc.status === 'ready') canvas.value.dataset.drawn = `${painted}:${++drawn.value}`
}

let cast: Actor[] | null = null
let pictured = false
let painted = 0 // the frame that the values are of, which may be behind the playhead

function paint(frame: Frame): void {
  painted = frame.frame
  // Before the frame that follows a change of structure is painted, the stage learns who is on it.
  if (cast !== actors.value) stage?.cast((cast = actors.value))
  stage?.update(doc.values, frame.shapes, frame.particles, frame.copies)
  render()
}

onMounted(() => {
  if (!canvas.value) return
  stage = new Stage(canvas.value, render)
  doc.painters.add(paint)
  workspace.viewport = {
    fit,
    remove: () => workspace.shaping !== null && (vertexMarks.value?.remove(), true),
    nudge: handling.nudge,
    under: reach,
    spots,
  }
  ready.value = true
})
onBeforeUnmount(() => {
  doc.painters.delete(paint)
  workspace.viewport = null
  stage?.dispose()
})

watch([width, height, sight, orbit, () => doc.composition, () => doc.status, themeName], (now, was) => {
  if (now[0] !== was[0] || now[1] !== was[1]) stage?.resize(width.value, height.value)
  stage?.look(sight.value, orbit.value, doc.composition ?? null, palettes[themeName.value].surround)
  render()
})
watch(
  () => selection.ids,
  (ids) => {
    if (workspace.shaping && (ids.length !== 1 || ids[0] !== workspace.shaping)) workspace.shaping = null
  },
)

/** The composition's frame on the canvas. */
const frame = computed<Bounds | null>(() => {
  const c = doc.composition
  if (!c || orbit.value) return null
  const { x, y, zoom: k } = sight.value
  return { left: x - (c.width * k) / 2, right: x + (c.width * k) / 2, top: y - (c.height * k) / 2, bottom: y + (c.height * k) / 2 }
})

const at = (e: MouseEvent): [number, number] => {
  const box = host.value?.getBoundingClientRect()
  return [e.clientX - (box?.left ?? 0), e.clientY - (box?.top ?? 0)]
}

const { marquee, press, pressMark, seize } = usePressing({ stage: () => stage, at, frame, orbit, handling, pan, swing })

/** The item of the picture under a point of the window. */
function reach(x: number, y: number): Id | undefined {
  const box = host.value?.getBoundingClientRect()
  if (!box || x < box.left || x > box.right || y < box.top || y > box.bottom) return undefined
  return stage?.under(x - box.left, y - box.top)[0]
}

/** Where items stand in the window. */
function spots(ids: Id[]): ([number, number] | null)[] {
  const box = host.value?.getBoundingClientRect()
  const stands = handling.places()
  return ids.map((id) => {
    const at = stage?.sights.project(stands(id))
    return box && at ? [box.left + at[0], box.top + at[1]] : null
  })
}

function double(event: MouseEvent): void {
  if (workspace.shaping && vertexMarks.value?.insert(...at(event))) return
  const hit = stage?.under(...at(event))[0]
  const item = hit && doc.items.get(hit)
  if (item && (item.path || doc.kinds.get(item.kind)?.class === 'solid')) {
    selection.pick(item.id)
    workspace.shaping = item.id
  }
}

/** Zooms; where the panels stand below each other, the wheel goes along the page, and zooms with Ctrl. */
const below = useMediaQuery('(max-width: 1000px)')
function wheel(event: WheelEvent): void {
  if (below.value && !event.ctrlKey) return
  event.preventDefault()
  zoom(Math.exp(-event.deltaY * (event.ctrlKey ? 0.01 : 0.0015)), ...at(event))
}

function whole(): void {
  zoom(1 / sight.value.zoom, width.value / 2, height.value / 2)
}
</script>

<template>
  <section
    ref="host"
    class="viewport"
    :style="{ background: palettes[themeName].surround }"
    aria-label="Viewport"
    data-panel="viewport"
    @pointerdown.capture="seize"
    @contextmenu.prevent
    @dblclick="double"
    @wheel="wheel"
  >
    <canvas
      ref="canvas"
      data-testid="stage"
      tabindex="0"
      aria-label="Picture of the composition; Alt with arrow keys nudges what is selected"
      @pointerdown="press"
    />
    <BeforePicture v-if="before.shown" :width="width" :height="height" :sight="sight" :orbit="orbit" />
    <template v-if="ready && stage && !workspace.pulled && workspace.marks && !before.shown">
      <StageGuides :stage="stage" :drawn="drawn" :free="orbit !== null" />
      <SelectionHandles v-if="!workspace.shaping" :stage="stage" :drawn="drawn" :handling="handling" />
      <StageMarks :stage="stage" :drawn="drawn" @grab="pressMark" />
      <ZoneHandles :stage="stage" :drawn="drawn" />
      <PathHandles :stage="stage" :drawn="drawn" />
      <PointHandles :stage="stage" :drawn="drawn" />
      <VertexMarks v-if="workspace.shaping" ref="vertexMarks" :stage="stage" :drawn="drawn" :item="workspace.shaping" />
    </template>
    <LaidControls v-if="ready && stage && !workspace.pulled" :stage="stage" :drawn="drawn" />
    <div
      v-if="marquee"
      class="marquee"
      :style="{
        left: marquee.left + 'px',
        top: marquee.top + 'px',
        width: marquee.right - marquee.left + 'px',
        height: marquee.bottom - marquee.top + 'px',
      }"
    />
    <div class="bands"><BeforeBar /><TryingBar /><PoseBar /><PosingBar /><RecordingBar /></div>
    <ViewportTools v-if="!workspace.pulled" :zoom="sight.zoom" :free="orbit !== null" @fit="fit" @free="lookAround" @whole="whole" />
  </section>
</template>

<style scoped>
.viewport {
  position: relative;
  overflow: hidden;
  background: var(--surround);
  min-width: 0;
  min-height: 0;
  user-select: none;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  display: block;
  touch-action: none;
}
canvas:focus {
  outline: none;
}
/* In two tones, which are seen on any picture. */
.viewport:has(canvas:focus-visible)::after {
  content: '';
  position: absolute;
  inset: 0;
  border: 2px solid var(--brass);
  outline: 2px solid var(--card);
  outline-offset: -4px;
  pointer-events: none;
}
/* One below the other, where several modes are on. */
.bands {
  position: absolute;
  left: 8px;
  right: 8px;
  top: 8px;
  display: grid;
  gap: 4px;
  z-index: 3;
  pointer-events: none;
}
.marquee {
  position: absolute;
  border: 1px dashed var(--card);
  outline: 1px dashed var(--ink);
  pointer-events: none;
}
</style>
