<script setup lang="ts">
import { computed } from 'vue'
import { usePlaces, type Spot } from '@/composables/places'
import { most, useSelectionFrames } from '@/composables/selectionFrames'
import type { useHandling } from '@/composables/handling'
import type { Id, Point3 } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import type { Stage } from '@/viewport/stage'

/** The frame of what is selected with its handles: ticks at the corners scale, the pendulum turns, the pin is the pivot. */
const props = defineProps<{ stage: Stage; drawn: number; handling: ReturnType<typeof useHandling> }>()

const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const { spot, values } = usePlaces(() => props.stage)
const hang = 26

const { frames, around } = useSelectionFrames(
  () => props.stage,
  () => props.drawn,
)

/** Numbers of members of a row that are not selected. */
const others = computed(() => {
  void props.drawn
  return [...selection.numbers]
    .filter(([id]) => !selection.has(id) && !doc.hidden.has(id))
    .slice(0, most)
    .flatMap(([id, number]) => {
      const at = props.stage.sights.project(props.handling.standing(id))
      return at ? [{ id, number, at }] : []
    })
})

/** The handles stand at the one item that is selected, or at the last of several. */
const handles = computed(() => {
  void props.drawn
  const id = selection.ids[selection.ids.length - 1]
  const i = id === undefined ? undefined : doc.indexes.get(id)
  if (id === undefined || i === undefined || doc.items.get(id)?.locked || doc.hidden.has(id)) return null
  if (['sound', 'data'].includes(doc.kinds.get(doc.items.get(id)?.kind ?? 'null')?.class ?? '')) return null // which is not in the picture
  const at = values(id, 'pivot')
  const pivot = spot(i, at)
  if (!pivot) return null
  const axis = (k: number): Spot => {
    const to = spot(
      i,
      at.map((x, m) => x + (m === k ? 1 : 0)),
    )
    const d: Spot = to ? [to[0] - pivot[0], to[1] - pivot[1]] : [0, 0]
    const long = Math.hypot(...d)
    return long > 1e-6 ? [d[0] / long, d[1] / long] : k === 0 ? [1, 0] : [0, -1]
  }
  const frame = frames.value.find((f) => f.id === id)
  const top: Spot = frame
    ? [((frame.corners[2]?.[0] ?? 0) + (frame.corners[3]?.[0] ?? 0)) / 2, ((frame.corners[2]?.[1] ?? 0) + (frame.corners[3]?.[1] ?? 0)) / 2]
    : pivot
  const y = axis(1)
  const knob: Spot = [top[0] + y[0] * hang, top[1] + y[1] * hang]
  return { id, i, pivot, axes: { x: axis(0), y }, top, knob, corners: frame?.corners ?? [] }
})

/** The place of an item's own plane that lies under a point of the canvas. */
function toLocal(id: Id, i: number, start: Spot): (x: number, y: number, free: boolean) => Point3 | null {
  const at = values(id, 'pivot') as Point3
  const right = spot(i, [at[0] + 1, at[1], at[2]])
  const up = spot(i, [at[0], at[1] + 1, at[2]])
  const box = props.stage.box(id)
  return (x, y, free) => {
    if (!right || !up) return null
    const [a, b, c, d] = [right[0] - start[0], up[0] - start[0], right[1] - start[1], up[1] - start[1]]
    const det = a * d - b * c
    if (Math.abs(det) < 1e-9) return null
    const [dx, dy] = [x - start[0], y - start[1]]
    const round = (v: number): number => Math.round(v * 100) / 100
    // Edges, corners and the middle draw the pivot near.
    const near = (v: number, from: number, to: number, scale: number): number =>
      free || !box ? v : ([from, (from + to) / 2, to].find((s) => Math.abs(s - v) * scale < 8) ?? v)
    const [l, low, r, top] = box ?? [0, 0, 0, 0]
    return [
      round(near(at[0] + (d * dx - b * dy) / det, l, r, Math.hypot(a, c))),
      round(near(at[1] + (a * dy - c * dx) / det, low, top, Math.hypot(b, d))),
      at[2],
    ]
  }
}
</script>

<template>
  <svg class="handles" aria-hidden="true">
    <g v-if="around">
      <path class="edge dark" :d="around" />
      <path class="edge" :d="around" />
    </g>
    <g v-for="f in frames" :key="f.id">
      <path class="edge dark" :d="f.outline" />
      <path class="edge" :class="{ pointed: !f.n }" :d="f.outline" />
      <path class="ticks" :d="f.ticks.join('')" />
      <text v-if="selection.numbers.get(f.id)" class="order" :x="f.label[0] + 4" :y="f.label[1] - 4">
        {{ selection.numbers.get(f.id) }}
      </text>
    </g>
    <text v-for="o in others" :key="o.id" class="order" :x="o.at[0]" :y="o.at[1] - 4">{{ o.number }}</text>
    <g v-if="handles">
      <circle
        v-for="(c, k) in handles.corners"
        :key="k"
        class="hit corner"
        data-handle="scale"
        :cx="c[0]"
        :cy="c[1]"
        r="8"
        @pointerdown.stop="handling.grow($event, handles.pivot, c, handles.axes)"
      >
        <title>Drag to scale; Shift keeps proportions</title>
      </circle>
      <path class="cord" :d="`M${handles.top[0]} ${handles.top[1]}L${handles.knob[0]} ${handles.knob[1]}`" />
      <circle
        class="knob"
        data-handle="turn"
        :cx="handles.knob[0]"
        :cy="handles.knob[1]"
        r="5.5"
        @pointerdown.stop="handling.turn($event, handles.pivot, handles.knob)"
      >
        <title>Drag to rotate; Shift snaps to 15°</title>
      </circle>
      <g
        class="pin"
        :class="{ loose: workspace.pivoting }"
        data-handle="pivot"
        :transform="`translate(${handles.pivot[0]} ${handles.pivot[1]})`"
        @pointerdown.stop="handling.pivot($event, handles.id, toLocal(handles.id, handles.i, handles.pivot), handles.pivot)"
      >
        <title>Drag the pivot; the item stays where it is. Alt does without snapping.</title>
        <circle class="hit" r="9" />
        <path d="M-4.5 0H4.5M0 -4.5V4.5" />
        <path class="thin" d="M-4.5 0H4.5M0 -4.5V4.5" />
      </g>
    </g>
    <template v-for="(g, k) in handling.guides.value" :key="k">
      <path class="guide" :d="g.x !== undefined ? `M${g.x} 0V4000` : `M0 ${g.y}H8000`" />
    </template>
  </svg>
</template>

<style scoped>
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.edge {
  fill: none;
  stroke: var(--card);
  stroke-width: 1;
  opacity: 0.9;
}
.edge.dark {
  stroke: var(--ink);
  stroke-width: 2.5;
  opacity: 0.35;
}
.ticks {
  fill: none;
  stroke: var(--brass);
  stroke-width: 3;
}
.order {
  font: 11px var(--face-figures);
  fill: var(--card);
  paint-order: stroke;
  stroke: var(--ink);
  stroke-width: 3;
}
.hit {
  fill: transparent;
  pointer-events: auto;
}
.corner {
  cursor: nwse-resize;
}
.cord {
  stroke: var(--brass);
  stroke-width: 1;
}
.knob {
  fill: var(--card);
  stroke: var(--brass);
  stroke-width: 2;
  pointer-events: auto;
  cursor: grab;
}
.pin .hit {
  pointer-events: none;
}
.pin.loose .hit {
  pointer-events: auto;
  cursor: crosshair;
  stroke: var(--brass);
}
.pin path {
  stroke: var(--card);
  stroke-width: 4;
  stroke-linecap: round;
}
.pin .thin {
  stroke: var(--brass);
  stroke-width: 1.8;
}
.guide {
  stroke: var(--brass);
  stroke-width: 1;
  stroke-dasharray: 2 3;
}
.edge.pointed {
  stroke-dasharray: 5 4;
}
</style>
