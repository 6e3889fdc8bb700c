<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, proxyRefs, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { castOf } from '@/composables/cast'
import { dragging } from '@/composables/drag'
import { tell } from '@/composables/notify'
import { themeName } from '@/composables/theme'
import { openBeside, type Beside } from '@/core/beside'
import { valuesOf } from '@/core/values'
import type { Composition, Frame, Project } from '@/core/types'
import { useBefore } from '@/stores/before'
import { useDocument } from '@/stores/document'
import { useStructure } from '@/stores/document/structure'
import { usePlayback } from '@/stores/playback'
import { palettes } from '@/theme'
import type { Orbit, Sight } from '@/viewport/sight'
import { Stage } from '@/viewport/stage'

/** The picture as it was before, over the one as it is now: all of it, or up to a line that is dragged. It has a core of its own. */
const props = defineProps<{ width: number; height: number; sight: Sight; orbit: Orbit | null }>()
const doc = useDocument()
const before = useBefore()
const playback = usePlayback()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const ready = ref(false)

const values = shallowRef<Float64Array>(new Float64Array())
const composition = shallowRef<Composition | null>(null)
let stage: Stage | null = null
let beside: Beside | null = null

function look(): void {
  stage?.resize(props.width, props.height)
  stage?.look(props.sight, props.orbit, composition.value, palettes[themeName.value].surround)
  render()
}
function render(): void {
  if (stage?.render() && canvas.value) canvas.value.dataset.drawn = String(painted)
}
let painted = -1
function paint(frame: Frame | null): void {
  if (!frame) return
  values.value = valuesOf(frame, values.value)
  stage?.update(values.value, frame.shapes, frame.particles, frame.copies)
  painted = frame.frame
  render()
}

let asked = false
async function show(): Promise<void> {
  if (asked || !beside) return
  asked = true
  while (beside && painted !== playback.frame) {
    const to = playback.frame
    paint(await beside.frame(to))
    painted = to
  }
  asked = false
}

/** Opens the state that is chosen, in a core of its own. */
async function load(): Promise<void> {
  ready.value = false
  beside?.close()
  beside = null
  const id = before.chosen?.id
  const project: Project | null = id ? await before.projectOf(id) : null
  if (!project || !stage || id !== before.chosen?.id) return
  try {
    const opened = await openBeside(project, playback.frame)
    if (!stage || id !== before.chosen?.id) return opened.close()
    beside = opened
    const { view } = opened.opened
    const structure = useStructure(shallowRef(doc.catalogue), values, new Map())
    structure.take(view, project)
    composition.value = view.compositions[0] ?? null
    stage.cast(castOf(proxyRefs(structure.read)))
    look()
    paint(opened.first)
    ready.value = true
    void show()
  } catch (error) {
    tell(error)
  }
}

onMounted(() => {
  if (canvas.value) stage = new Stage(canvas.value, render)
  void load()
})
onBeforeUnmount(() => {
  beside?.close()
  stage?.dispose()
  stage = null
  beside = null
})
watch(() => before.chosen?.id, load)
watch(() => playback.frame, show)
watch([() => props.width, () => props.height, () => props.sight, () => props.orbit, themeName], look)

const at = computed(() => (before.held ? props.width : before.share * props.width))
function slide(event: PointerEvent): void {
  const was = before.share
  dragging(
    event,
    (dx) => (before.share = Math.max(0, Math.min(1, was + dx / props.width))),
    undefined,
    () => (before.share = was),
  )
}
function key(event: KeyboardEvent): void {
  const step = { ArrowLeft: -0.02, ArrowRight: 0.02, Home: -1, End: 1 }[event.key]
  if (!step) return
  event.preventDefault()
  event.stopPropagation()
  before.share = Math.max(0, Math.min(1, before.share + step * (event.shiftKey ? 5 : 1)))
}
</script>

<template>
  <div class="before" :style="{ clipPath: `inset(0 ${width - at}px 0 0)` }">
    <canvas ref="canvas" data-testid="before" aria-label="Picture of the composition as it was before" role="img" />
    <p v-if="!ready" class="wait">Getting {{ before.chosen?.name }} ready…</p>
  </div>
  <div
    v-if="before.comparing && !before.held"
    class="line"
    role="slider"
    tabindex="0"
    aria-label="How much shows what was before"
    :aria-valuenow="Math.round(before.share * 100)"
    aria-valuemin="0"
    aria-valuemax="100"
    :style="{ transform: `translateX(${at}px)` }"
    @pointerdown.stop="slide"
    @keydown="key"
  >
    <span class="side was">{{ before.chosen?.name }}</span>
    <span class="side">Now</span>
  </div>
</template>

<style scoped>
.before,
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.wait {
  position: absolute;
  inset: 0;
  margin: 0;
  padding: 60px 16px;
  background: var(--surround);
  color: var(--ink);
}
.line {
  position: absolute;
  left: -12px;
  top: 0;
  bottom: 0;
  width: 24px;
  cursor: ew-resize;
  touch-action: none;
}
.line::before {
  content: '';
  position: absolute;
  left: 11px;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--brass);
}
.side {
  position: absolute;
  bottom: 44px;
  left: 20px;
  padding: 1px 8px;
  border-radius: 3px;
  background: var(--card);
  font-size: 12px;
  white-space: nowrap;
  pointer-events: none;
}
.was {
  left: auto;
  right: 20px;
}
</style>
