<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { castOf } from '@/composables/cast'
import { themeName } from '@/composables/theme'
import type { Frame } from '@/core/types'
import { useDocument } from '@/stores/document'
import { palettes } from '@/theme'
import { Stage, type Actor } from '@/viewport/stage'
import { fitted } from '@/viewport/sight'

/** The picture of the composition that is open, as large as there is room, and nothing to take hold of. */
defineProps<{ named?: boolean }>()
const doc = useDocument()
const host = useTemplateRef<HTMLDivElement>('host')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(host)
const sight = computed(() => fitted(width.value, height.value, doc.composition))
const actors = computed<Actor[]>(() => {
  void doc.layout // what else is read here is read past Vue
  return castOf(doc)
})
let stage: Stage | null = null
let cast: Actor[] | null = null
let painted = 0
const drawn = ref(0)

function render(): void {
  if (!stage || width.value < 1 || !stage.render()) return
  if (canvas.value && doc.status === 'ready') canvas.value.dataset.drawn = `${painted}:${++drawn.value}`
}
function paint(frame: Frame): void {
  painted = frame.frame
  if (cast !== actors.value) stage?.cast((cast = actors.value))
  stage?.update(doc.values, frame.shapes, frame.particles, frame.copies)
  render()
}
function look(): void {
  stage?.resize(width.value, height.value)
  stage?.look(sight.value, null, doc.composition ?? null, palettes[themeName.value].surround)
  render()
}
onMounted(() => {
  if (!canvas.value) return
  stage = new Stage(canvas.value, render)
  doc.painters.add(paint)
})
onBeforeUnmount(() => {
  doc.painters.delete(paint)
  stage?.dispose()
})
watch([sight, () => doc.composition, () => doc.status, themeName], look)
</script>

<template>
  <div ref="host" class="host">
    <canvas ref="canvas" data-testid="picture" role="img" :aria-label="`Picture of ${doc.composition?.name ?? 'the composition'}`" />
    <span v-if="named" class="name">{{ doc.composition?.name }}</span>
  </div>
</template>

<style scoped>
.host {
  position: relative;
  overflow: hidden;
  min-width: 0;
  min-height: 0;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.name {
  position: absolute;
  left: 12px;
  top: 8px;
  padding: 1px 8px;
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  font-size: 12px;
}
</style>
