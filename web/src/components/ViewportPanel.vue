<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, toRaw, useTemplateRef, watch } from 'vue'
import type { Frame } from '@/core/types'
import { themeName } from '@/composables/theme'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { palettes } from '@/theme'
import { Stage, type Actor, type Sight } from '@/viewport/stage'
import StageMarks from './StageMarks.vue'

const document = useDocument()
const playback = usePlayback()
const selection = useSelection()
const host = useTemplateRef<HTMLDivElement>('host')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(host)
let stage: Stage | null = null
const ready = ref(false)
const drawn = ref(0)
const margin = 28

/** The composition fits into the panel with a margin around it. */
const sight = computed<Sight>(() => {
  const c = document.composition
  if (!c) return { x: 0, y: 0, zoom: 1 }
  const zoom = Math.max(0.01, Math.min((width.value - 2 * margin) / c.width, (height.value - 2 * margin) / c.height))
  return { x: width.value / 2, y: height.value / 2, zoom }
})

const actors = computed<Actor[]>(() => {
  void document.layout // what else is read here is read past Vue: nothing of it changes without the layout
  const items = toRaw(document.items)
  const bases = toRaw(document.base)
  const kinds = new Map(document.catalogue.kinds.map((k) => [k.kind, k]))
  return document.order.map((id, i) => {
    const item = items.get(id)
    const kind = item && kinds.get(item.kind)
    if (!item || !kind?.drawn) return { id, hidden: true, slots: null }
    const base = bases.get(id) ?? 0
    const at = (key: string): number => base + (kind.specs.find((s) => s.key === key)?.offset ?? 0)
    return {
      id, hidden: item.hidden === true,
      slots: { world: document.world + 12 * i, fill: at('fill'), stroke: at('stroke'), strokeWidth: at('strokeWidth'), opacity: at('opacity') },
    }
  })
})

function render(): void {
  if (!stage || width.value < 1) return
  stage.render()
  // Says which frame is on the screen, for whoever waits for it.
  if (canvas.value && document.status === 'ready') canvas.value.dataset.drawn = `${playback.frame}:${++drawn.value}`
}

let cast: Actor[] | null = null

function paint(frame: Frame): void {
  // Before the frame that follows a change of structure is painted, the stage learns who is on it.
  if (cast !== actors.value) stage?.cast((cast = actors.value))
  stage?.update(frame.values, frame.outlines)
  render()
}

onMounted(() => {
  if (!canvas.value) return
  stage = new Stage(canvas.value)
  document.painters.add(paint)
  ready.value = true
})
onBeforeUnmount(() => {
  document.painters.delete(paint)
  stage?.dispose()
})

watch([width, height, sight, () => document.composition, () => document.status, themeName], () => {
  stage?.resize(width.value, height.value)
  stage?.look(sight.value, document.composition ?? null, palettes[themeName.value].surround)
  render()
})

function choose(event: PointerEvent): void {
  const hit = stage?.under(event.offsetX, event.offsetY).find((id) => !document.items.get(id)?.locked)
  if (hit) selection.pick(hit, event.shiftKey || event.ctrlKey || event.metaKey ? 'toggle' : 'only')
  else selection.clear()
}

const label = computed(() => {
  const c = document.composition
  return c ? `${c.width} × ${c.height} · ${Math.round(sight.value.zoom * 100)} %` : ''
})
</script>

<template>
  <section ref="host" class="viewport" aria-label="Viewport">
    <canvas ref="canvas" data-testid="stage" @pointerdown="choose" />
    <StageMarks v-if="ready" :sight="sight" :drawn="drawn" :box="(id) => stage?.box(id) ?? null" />
    <span class="label figures">{{ label }}</span>
  </section>
</template>

<style scoped>
.viewport { position: relative; overflow: hidden; background: var(--surround); min-width: 0; min-height: 0; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; display: block; }
.label { position: absolute; left: 10px; bottom: 8px; padding: 2px 8px; border-radius: 4px; background: var(--card); color: var(--ink2); pointer-events: none; }
</style>
