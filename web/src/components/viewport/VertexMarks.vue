<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { coalesced } from '@/composables/coalesced'
import { dragging } from '@/composables/drag'
import { message } from '@/composables/notify'
import { lineThrough, usePlaces, type Spot } from '@/composables/places'
import { core } from '@/core/client'
import type { Id, Point3, Vertex } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'
import type { Stage } from '@/viewport/stage'

/** The vertices of one item with their numbers and handles, to be dragged. */
const props = defineProps<{ stage: Stage; drawn: number; item: Id }>()
const doc = useDocument()
const workspace = useWorkspace()
const { onCanvas } = usePlaces(() => props.stage)
const vertices = shallowRef<Vertex[]>([])
const picked = ref<number | null>(null)

const read = coalesced(async () => {
  const answer = await core.ask('vertices', props.item)
  vertices.value = answer.result ?? []
})
watch([() => props.drawn, () => props.item], read, { immediate: true })
watch(
  () => props.item,
  () => (picked.value = null),
)

const isPath = computed(() => doc.items.get(props.item)?.path === true)
const marks = computed(() =>
  vertices.value.map((v) => ({ v, at: onCanvas(v.place), in: onCanvas(v.in), out: onCanvas(v.out) })).filter((m) => m.at),
)
/** Where there are very many, only some show their number. */
const numbered = computed(() => (vertices.value.length > 300 ? 10 : 1))

function drag(event: PointerEvent, v: Vertex): void {
  picked.value = v.id
  if (event.altKey && isPath.value) return pull(event, v, 'both')
  let to: Point3 = v.place
  dragging(
    event,
    (dx, dy) => {
      const by = props.stage.sights.way(dx, dy, v.place)
      to = [v.place[0] + by[0], v.place[1] + by[1], v.place[2] + by[2]]
      void doc.preview('move vertex', { item: props.item, vertex: v.id, to })
    },
    (moved) => moved && void doc.gesture('move vertex', { item: props.item, vertex: v.id, to }),
    doc.cancelPreview,
  )
}

/** A way of the composition in the item's own space, from how its handles stand in both. */
function local(by: Point3): [number, number] {
  const i = doc.indexes.get(props.item) ?? -1
  const w = doc.world + doc.stride * i
  const m = (k: number): number => doc.values[w + k] ?? 0
  const det = m(0) * m(5) - m(1) * m(4) || 1
  return [(m(5) * by[0] - m(1) * by[1]) / det, (m(0) * by[1] - m(4) * by[0]) / det]
}

/** Pulls a handle; Alt at a vertex pulls both out, one against the other. */
function pull(event: PointerEvent, v: Vertex, which: 'in' | 'out' | 'both'): void {
  const was = { in: local(minus(v.in, v.place)), out: local(minus(v.out, v.place)) }
  let handles = { vertex: v.id, ...was }
  dragging(
    event,
    (dx, dy, e) => {
      const by = local(props.stage.sights.way(dx, dy, v.place))
      const shifted = (p: [number, number]): [number, number] => [p[0] + by[0], p[1] + by[1]]
      if (which === 'both') handles = { vertex: v.id, out: by, in: [-by[0], -by[1]] }
      else {
        const moved = shifted(was[which])
        const other = which === 'in' ? 'out' : 'in'
        const long = Math.hypot(...was[other])
        const d = Math.hypot(...moved) || 1
        // The other handle stays in line, unless Alt breaks them apart.
        const against: [number, number] = e.altKey || long === 0 ? was[other] : [(-moved[0] / d) * long, (-moved[1] / d) * long]
        handles = which === 'in' ? { vertex: v.id, in: moved, out: against } : { vertex: v.id, out: moved, in: against }
      }
      void doc.preview('reshape', { item: props.item, handles })
    },
    (moved) => moved && void doc.gesture('reshape', { item: props.item, handles }),
    doc.cancelPreview,
  )
}

const minus = (a: Point3, b: Point3): Point3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]

/** Puts a vertex where the line passes nearest to a point of the canvas. */
function insert(x: number, y: number): boolean {
  let best = { d: 8, after: 0, share: 0 }
  const byId = new Map(vertices.value.map((v) => [v.id, v]))
  for (const v of vertices.value) {
    const n = v.next === undefined ? undefined : byId.get(v.next)
    const p = n && [v.place, v.out, n.in, n.place].map(onCanvas)
    if (!p || p.some((s) => !s)) continue
    const [a, b, c, e] = p as [Spot, Spot, Spot, Spot]
    for (let t = 0.02; t < 1; t += 0.02) {
      const u = 1 - t
      const at = (k: 0 | 1): number => u * u * u * a[k] + 3 * u * u * t * b[k] + 3 * u * t * t * c[k] + t * t * t * e[k]
      const d = Math.hypot(at(0) - x, at(1) - y)
      if (d < best.d) best = { d, after: v.id, share: t }
    }
  }
  if (!best.after) return false
  void doc.gesture('reshape', { item: props.item, insert: { after: best.after, share: best.share } })
  return true
}

function remove(): void {
  if (picked.value === null) return
  if (!isPath.value) return void message.info('Only vertices of paths can be removed.', { duration: 3000 })
  void doc.gesture('reshape', { item: props.item, remove: [picked.value] })
  picked.value = null
}

/** Makes a corner of a smooth vertex, and the other way round. */
function round(v: Vertex): void {
  void doc.gesture('reshape', { item: props.item, ...(v.handles ? { corner: [v.id] } : { smooth: [v.id] }) })
}

defineExpose({ insert, remove })
</script>

<template>
  <svg class="vertices" aria-hidden="true">
    <g v-for="m in marks" :key="m.v.id">
      <template v-if="isPath && m.v.handles && (picked === m.v.id || marks.length < 30)">
        <path class="arm" :d="lineThrough([m.in, m.at, m.out])" />
        <circle
          v-for="side in ['in', 'out'] as const"
          :key="side"
          class="handle"
          data-handle="tangent"
          :cx="m[side]?.[0]"
          :cy="m[side]?.[1]"
          r="4"
          @pointerdown.stop="pull($event, m.v, side)"
        />
      </template>
      <g
        :transform="`translate(${m.at?.[0]} ${m.at?.[1]})`"
        class="vertex"
        :class="{ picked: picked === m.v.id }"
        :data-vertex="m.v.number"
        @pointerdown.stop="drag($event, m.v)"
        @dblclick.stop="isPath && round(m.v)"
      >
        <circle class="hit" r="9" />
        <rect x="-4" y="-4" width="8" height="8" />
        <text v-if="workspace.vertexNumbers && m.v.number % numbered === 0" x="7" y="-6">{{ m.v.number }}</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
.vertices {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.vertex {
  pointer-events: auto;
  cursor: move;
}
.hit {
  fill: transparent;
}
.vertex rect {
  fill: var(--card);
  stroke: var(--brass);
  stroke-width: 1.5;
}
.vertex.picked rect {
  fill: var(--brass);
}
.arm {
  stroke: var(--brass);
  stroke-width: 1;
  fill: none;
}
.handle {
  fill: var(--brass);
  stroke: var(--card);
  stroke-width: 1;
  pointer-events: auto;
  cursor: crosshair;
}
text {
  font: 11px var(--face-figures);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 3;
}
</style>
