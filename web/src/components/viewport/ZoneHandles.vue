<script setup lang="ts">
import { computed } from 'vue'
import { dragging } from '@/composables/drag'
import { lineThrough, usePlaces, type Spot } from '@/composables/places'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import type { Stage } from '@/viewport/stage'

/** Zones: their edge and the end of their falloff; of those that are selected, handles for both. */
const props = defineProps<{ stage: Stage; drawn: number }>()
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const { spot, values } = usePlaces(() => props.stage)

/** How long the lines of bands and half-planes are drawn, in pixels. */
const long = 3000

interface Knob {
  name: string
  at: Spot
  /** What one pixel of the composition along the way of the knob is on the canvas. */
  along: Spot
  set: (way: number) => { property: string; value: number | number[] }
}

/** The outline of a zone, drawn in by some pixels. */
function outline(i: number, shape: number, pivot: number[], size: number[], by: number): string {
  const [px = 0, py = 0] = pivot
  const [w = 0, h = 0] = size
  const at = (x: number, y: number): Spot | null => spot(i, [px + x, py + y, pivot[2] ?? 0])
  const line = (x: number): string => lineThrough([at(x, -long), at(x, long)])
  const [rx, ry] = [w / 2 - by, h / 2 - by]
  if (shape === 3) return line(-by)
  if (rx <= 0) return ''
  if (shape === 2) return line(rx) + line(-rx)
  if (shape === 1) return ry > 0 ? lineThrough([at(-rx, -ry), at(rx, -ry), at(rx, ry), at(-rx, ry)], true) : ''
  const round = Array.from({ length: 64 }, (_, k) => at(rx * Math.cos((k * Math.PI) / 32), rx * Math.sin((k * Math.PI) / 32)))
  return lineThrough(round, true)
}

/** Whether a zone has a part in what is selected. */
const sweeps = (id: Id): boolean =>
  selection.ids.length > 0 &&
  Object.entries(doc.followers).some(([key, items]) => key.startsWith(id + '/') && items?.some((i) => selection.has(i)))

/** Edges are drawn while they matter: of zones that are selected, pointed at, or sweep what is selected. */
const zones = computed(() => {
  void props.drawn
  void doc.layout
  return doc.ofKind('zone').flatMap((id) => {
    const i = doc.indexes.get(id) ?? -1
    if (i < 0 || doc.hidden.has(id)) return []
    const shape = values(id, 'zoneShape')[0] ?? 0
    const [pivot, size] = [values(id, 'pivot'), values(id, 'zoneSize')]
    const falloff = values(id, 'falloff')[0] ?? 0
    const picked = selection.has(id)
    if (!picked && workspace.hovering !== id && !sweeps(id)) return []
    return [
      {
        id,
        picked,
        edge: outline(i, shape, pivot, size, 0),
        inner: falloff > 0 ? outline(i, shape, pivot, size, falloff) : '',
        knobs: picked ? knobs(i, shape, pivot, size, falloff) : [],
      },
    ]
  })
})

function knobs(i: number, shape: number, pivot: number[], size: number[], falloff: number): Knob[] {
  const [px = 0, py = 0, pz = 0] = pivot
  const half = shape === 3 ? 0 : (size[0] ?? 0) / 2
  const out: Knob[] = []
  const add = (name: string, x: number, y: number, dx: number, dy: number, set: Knob['set']): void => {
    const [at, next] = [spot(i, [px + x, py + y, pz]), spot(i, [px + x + dx, py + y + dy, pz])]
    if (at && next) out.push({ name, at, along: [next[0] - at[0], next[1] - at[1]], set })
  }
  const tidy = (x: number): number => Math.round(Math.max(0, x) * 10) / 10
  if (shape !== 3)
    add('Edge', half, 0, 1, 0, (way) => ({
      property: 'zoneSize',
      value: size.map((s, k) => (k === 0 || shape === 0 ? tidy((size[0] ?? 0) + 2 * way) : s)),
    }))
  if (shape === 1)
    add('Height', 0, (size[1] ?? 0) / 2, 0, 1, (way) => ({
      property: 'zoneSize',
      value: size.map((s, k) => (k === 1 ? tidy(s + 2 * way) : s)),
    }))
  add('Falloff', half - falloff, 0, -1, 0, (way) => ({ property: 'falloff', value: tidy(falloff + way) }))
  return out
}

function drag(event: PointerEvent, id: Id, knob: Knob): void {
  const [ax, ay] = knob.along
  const scale = ax * ax + ay * ay || 1
  let last = knob.set(0)
  const using = () => ({ targets: [{ item: id, property: last.property }], value: last.value })
  dragging(
    event,
    (dx, dy) => {
      last = knob.set((dx * ax + dy * ay) / scale)
      void doc.preview('set', using())
    },
    (moved) => moved && void doc.gesture('set', using()),
    doc.cancelPreview,
  )
}
</script>

<template>
  <svg class="zones" aria-hidden="true">
    <g v-for="z in zones" :key="z.id" :class="{ picked: z.picked }" :data-zone="doc.items.get(z.id)?.name">
      <path class="shade" :d="z.edge + z.inner" />
      <path class="edge" :d="z.edge" />
      <path class="inner" :d="z.inner" />
      <g
        v-for="k in z.knobs"
        :key="k.name"
        class="knob"
        :data-knob="k.name"
        :transform="`translate(${k.at[0]} ${k.at[1]})`"
        @pointerdown.stop="drag($event, z.id, k)"
      >
        <title>{{ k.name }}: drag to change it</title>
        <circle class="hit" r="12" />
        <path class="dot" :d="k.name === 'Falloff' ? 'M-5 0A5 5 0 1 0 5 0A5 5 0 1 0 -5 0Z' : 'M-4.500 -4.500H4.500V4.500H-4.500Z'" />
        <text x="9" y="-7">{{ k.name }}</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
.zones {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
path {
  fill: none;
}
.edge,
.inner {
  stroke: var(--verdigris);
  stroke-width: 1.4;
  opacity: 0.5;
}
g:not(.picked) > .shade {
  opacity: 0.15;
}
.inner {
  stroke-dasharray: 4 4;
}
.picked > .edge,
.picked > .inner {
  stroke-width: 2;
  opacity: 1;
}
.shade {
  stroke: var(--card);
  stroke-width: 3.5;
  opacity: 0.5;
}
.knob {
  pointer-events: auto;
  cursor: move;
}
.hit {
  fill: transparent;
}
.dot {
  fill: var(--card);
  stroke: var(--verdigris);
  stroke-width: 2;
}
text {
  font: 600 11px var(--face-heading);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 3;
}
</style>
