<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { lineThrough, usePlaces } from '@/composables/places'
import { core } from '@/core/client'
import type { Point3 } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import type { Stage } from '@/viewport/stage'

/** Lines over the picture that are no part of it: safe margins, the frame in the free view, the way of what is selected. */
const props = defineProps<{ stage: Stage; drawn: number; free: boolean }>()
const doc = useDocument()
const playback = usePlayback()
const selection = useSelection()
const workspace = useWorkspace()
const { onCanvas } = usePlaces(() => props.stage)

function rectangle(share: number): string {
  void props.drawn
  const c = doc.composition
  if (!c) return ''
  const [x, y] = [(c.width / 2) * share, (c.height / 2) * share]
  return lineThrough(
    [
      [-x, -y],
      [x, -y],
      [x, y],
      [-x, y],
    ].map((p) => onCanvas([...p, 0])),
    true,
  )
}
const frame = computed(() => (props.free ? rectangle(1) : ''))
/** Nine tenths for what moves, eight tenths for what is read. */
const margins = computed(() => (workspace.margins ? rectangle(0.9) + rectangle(0.8) : ''))

const ways = shallowRef<Point3[][]>([])
let asked = 0

async function trace(): Promise<void> {
  const mine = ++asked
  if (!workspace.paths || !selection.ids.length || selection.ids.length > 8) {
    ways.value = []
    return
  }
  const all = await Promise.all(selection.ids.map((id) => core.ask('trace', id)))
  if (mine === asked) ways.value = all.map((a) => a.result ?? [])
}
watch([() => selection.ids, () => doc.rested, () => workspace.paths], trace, { immediate: true })

const lines = computed(() => {
  void props.drawn
  return ways.value
    .filter((w) => w.length > 1)
    .map((w) => {
      const spots = w.map(onCanvas)
      const step = Math.max(1, Math.ceil((doc.composition?.frames ?? 1) / w.length))
      const here = spots[Math.round(playback.frame / step)] ?? null
      return { path: lineThrough(spots), dots: spots.filter((s, k) => s && k % 5 === 0), here }
    })
})
</script>

<template>
  <svg class="guides" aria-hidden="true">
    <path v-if="frame" class="frame" :d="frame" />
    <path v-if="margins" class="margins" :d="margins" data-testid="margins" />
    <g v-for="(l, k) in lines" :key="k" data-testid="way">
      <path class="way dark" :d="l.path" />
      <path class="way" :d="l.path" />
      <circle v-for="(d, n) in l.dots" :key="n" class="dot" :cx="d?.[0]" :cy="d?.[1]" r="1.6" />
      <circle v-if="l.here" class="here" :cx="l.here[0]" :cy="l.here[1]" r="3.5" />
    </g>
  </svg>
</template>

<style scoped>
.guides {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.frame {
  fill: none;
  stroke: var(--card);
  stroke-width: 1.5;
}
.margins {
  fill: none;
  stroke: var(--card);
  stroke-width: 1;
  stroke-dasharray: 6 4;
  opacity: 0.8;
}
.way {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.2;
}
.way.dark {
  stroke: var(--card);
  stroke-width: 3;
  opacity: 0.5;
}
.dot {
  fill: var(--brass);
}
.here {
  fill: var(--card);
  stroke: var(--brass);
  stroke-width: 1.5;
}
</style>
