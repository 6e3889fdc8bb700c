<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, proxyRefs, shallowRef, useTemplateRef, watch } from 'vue'
import { castOf } from '@/composables/cast'
import { tell } from '@/composables/notify'
import { themeName } from '@/composables/theme'
import { openBeside, type Beside } from '@/core/beside'
import { core } from '@/core/client'
import type { Composition, Frame, Id, Project } from '@/core/types'
import { valuesOf } from '@/core/values'
import { useDocument } from '@/stores/document'
import { useStructure } from '@/stores/document/structure'
import { usePlayback } from '@/stores/playback'
import { palettes } from '@/theme'
import { fitted } from '@/viewport/sight'
import { Stage } from '@/viewport/stage'

/** The picture of another composition of the project at the same frame, from a core of its own. */
const props = defineProps<{ id: Id }>()
const doc = useDocument()
const playback = usePlayback()
const host = useTemplateRef<HTMLDivElement>('host')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(host)
const values = shallowRef<Float64Array>(new Float64Array())
const composition = shallowRef<Composition | null>(null)
const sight = computed(() => fitted(width.value, height.value, composition.value))
const name = computed(() => doc.compositions.find((c) => c.id === props.id)?.name ?? '')
let stage: Stage | null = null
let beside: Beside | null = null
let painted = -1
let asked = false

const render = (): void => void (stage?.render() && canvas.value && (canvas.value.dataset.drawn = String(painted)))
function look(): void {
  stage?.resize(width.value, height.value)
  stage?.look(sight.value, null, composition.value, palettes[themeName.value].surround)
  render()
}
function paint(frame: Frame | null): void {
  if (!frame) return
  values.value = valuesOf(frame, values.value)
  stage?.update(values.value, frame.shapes, frame.particles, frame.copies)
  painted = frame.frame
  render()
}
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
async function load(): Promise<void> {
  beside?.close()
  beside = null
  painted = -1
  const id = props.id
  const project = (await core.ask('project', null)).result as Project | undefined
  if (!project || !stage || id !== props.id) return
  try {
    const opened = await openBeside(project, playback.frame, id)
    if (!stage || id !== props.id) return opened.close()
    beside = opened
    const structure = useStructure(shallowRef(doc.catalogue), values, new Map())
    structure.take(opened.opened.view, project)
    composition.value = opened.opened.view.compositions.find((c) => c.id === id) ?? null
    stage.cast(castOf(proxyRefs(structure.read)))
    look()
    paint(opened.first)
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
watch([() => props.id, () => doc.layout], load)
watch(() => playback.frame, show)
watch([sight, themeName], look)
</script>

<template>
  <div ref="host" class="host">
    <canvas ref="canvas" data-testid="other" role="img" :aria-label="`Picture of ${name}`" />
    <span class="name">{{ name }}</span>
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
