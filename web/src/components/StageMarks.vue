<script setup lang="ts">
import { computed, toRaw } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import type { Sight } from '@/viewport/stage'

/** The drawings over the picture: nulls with their labels, and the corners of what is selected. */
const props = defineProps<{ sight: Sight; drawn: number; box: (id: Id) => [number, number, number, number] | null }>()

const document = useDocument()
const selection = useSelection()

type Point = [x: number, y: number]

/** Where a point of an item's own space lies on the canvas. */
function place(index: number, x: number, y: number): Point {
  const at = document.world + 12 * index
  const v = (i: number): number => document.values[at + i] ?? 0
  const { sight } = props
  return [sight.x + (v(0) * x + v(1) * y + v(3)) * sight.zoom, sight.y - (v(4) * x + v(5) * y + v(7)) * sight.zoom]
}

const index = computed(() => new Map(document.order.map((id, i) => [id, i])))

/** The nulls that are shown: those with controls, and those that are selected. */
const rings = computed(() => {
  void document.layout
  const items = toRaw(document.items)
  return document.order.flatMap((id, i) => {
    const item = items.get(id)
    const picked = selection.ids.includes(id)
    return item?.kind === 'null' && !item.hidden && (item.controls?.length || picked) ? [{ id, i, picked }] : []
  })
})
const nulls = computed(() => {
  void props.drawn
  return rings.value.map((r) => ({ ...r, name: document.items.get(r.id)?.name ?? '', at: place(r.i, 0, 0) }))
})

/** Corner ticks: along both sides of each corner, a few pixels long. */
const tick = 9

const frames = computed(() => {
  void props.drawn
  return selection.ids.flatMap((id, n) => {
    const i = index.value.get(id)
    const box = props.box(id)
    if (i === undefined || !box) return []
    const [l, b, r, t] = box
    const corners = [place(i, l, b), place(i, r, b), place(i, r, t), place(i, l, t)]
    const ticks = corners.map((corner, k) => {
      const toward = (other: Point): string => {
        const d = Math.hypot(other[0] - corner[0], other[1] - corner[1]) || 1
        const share = Math.min(0.5, tick / d)
        return `${corner[0] + (other[0] - corner[0]) * share} ${corner[1] + (other[1] - corner[1]) * share}`
      }
      return `M${toward(corners[(k + 3) % 4] as Point)}L${corner[0]} ${corner[1]}L${toward(corners[(k + 1) % 4] as Point)}`
    })
    return [{ id, n: n + 1, outline: 'M' + corners.map((c) => c.join(' ')).join('L') + 'Z', ticks: ticks.join(''), at: corners[2] as Point }]
  })
})
</script>

<template>
  <svg class="marks" aria-hidden="true">
    <g v-for="f in frames" :key="f.id">
      <path class="edge" :d="f.outline" />
      <path class="ticks" :d="f.ticks" />
      <text v-if="selection.ids.length > 1" class="order" :x="f.at[0] + 4" :y="f.at[1] - 4">{{ f.n }}</text>
    </g>
    <g v-for="n in nulls" :key="n.id" class="null" :class="{ picked: n.picked }" :transform="`translate(${n.at[0]} ${n.at[1]})`" @pointerdown="selection.pick(n.id, $event.shiftKey ? 'toggle' : 'only')">
      <circle r="6" />
      <circle r="1.5" class="dot" />
      <path d="M6 -6L12 -12" />
      <foreignObject x="12" y="-23" width="200" height="20"><span class="label">{{ n.name }}</span></foreignObject>
    </g>
  </svg>
</template>

<style scoped>
.marks { position: absolute; inset: 0; width: 100%; height: 100%; pointer-events: none; }
.edge { fill: none; stroke: var(--card); stroke-width: 1; opacity: 0.75; }
.ticks { fill: none; stroke: var(--brass); stroke-width: 2.5; }
.order { font: 11px var(--face-figures); fill: var(--card); paint-order: stroke; stroke: var(--ink); stroke-width: 3; }
.null { pointer-events: auto; cursor: pointer; }
.null circle { fill: transparent; stroke: var(--brass); stroke-width: 2; }
.null .dot { fill: var(--brass); stroke: none; }
.null path { stroke: var(--brass); stroke-width: 1; fill: none; }
.null .label { display: inline-block; max-width: 196px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; padding: 0 6px; font: 600 11px/17px var(--face-heading); background: var(--card); color: var(--ink); border: 1px solid var(--brass); border-radius: 3px; }
.null.picked .label { background: var(--brass); color: var(--onBrass); }
</style>
