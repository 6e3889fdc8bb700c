<script setup lang="ts">
import { computed, toRaw } from 'vue'
import { lineThrough, usePlaces, type Spot } from '@/composables/places'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import type { Stage } from '@/viewport/stage'

/** The small drawings of what has no picture of its own: nulls, lights, emitters, cameras. */
const props = defineProps<{ stage: Stage; drawn: number }>()
const emit = defineEmits<{ grab: [event: PointerEvent, id: Id] }>()

const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const { spot, values } = usePlaces(() => props.stage)

/** Line drawings about their middle. */
const drawings: Record<string, string> = {
  null: 'M-6 0a6 6 0 1 0 12 0a6 6 0 1 0-12 0M-1.2 0a1.2 1.2 0 1 0 2.4 0a1.2 1.2 0 1 0-2.4 0',
  pointLight: 'M-4 0a4 4 0 1 0 8 0a4 4 0 1 0-8 0M0-7v-3M0 7v3M-7 0h-3M7 0h3M-5-5l-2-2M5-5l2-2M-5 5l-2 2M5 5l2 2',
  spotLight: 'M-4-6h8l3 9h-14zM-5 3c2 3 8 3 10 0M0-6v-4',
  directionalLight: 'M-8 5c3-9 13-9 16 0zM-5 8v3M0 8v3M5 8v3',
  ambientLight: 'M-8 4a8 8 0 0 1 16 0zM-10 7h20',
  emitter: 'M-5 9h10l-2-5h-6zM0 1v-3M-3 0c-2-2-4-2-5 0M3 0c2-2 4-2 5 0M0-5v-1M-4-6v-1M4-6v-1',
  zone: 'M-7 0a7 7 0 1 0 14 0a7 7 0 1 0-14 0M-3 0a3 3 0 0 1 3-3M0 3a3 3 0 0 0 3-3',
  camera: 'M-8-4h10v8h-10zM2-1l6-3v8l-6-3M-5-7a2 2 0 1 0 4 0a2 2 0 1 0-4 0',
}

/** What carries others or drives something: a null that does is seen. */
const used = computed(() => {
  const out = new Set<Id>(Object.keys(doc.drives).map((key) => key.slice(0, key.indexOf('/')) as Id))
  void doc.layout
  for (const item of toRaw(doc.items).values()) if (item.parent) out.add(item.parent)
  return out
})

const shown = computed(() => {
  void doc.layout
  const items = toRaw(doc.items)
  return doc.order.flatMap((id, i) => {
    const item = items.get(id)
    const picked = selection.has(id)
    const own =
      item && drawings[item.kind] && !doc.hidden.has(id) && (item.kind !== 'null' || item.controls?.length || picked || used.value.has(id))
    return own ? [{ id, i, picked, kind: item.kind }] : []
  })
})

/** How far a light's cone is drawn, at most, in pixels. */
const reach = 400

/** What a picked light, camera or emitter reaches: its cone, its direction, its source. */
function extent(id: Id, i: number, kind: string): string {
  const n = (key: string): number[] => values(id, key)
  const pivot = n('pivot')
  if (kind === 'emitter') {
    const [w = 0, h = 0] = n('sourceSize')
    const source = n('source')[0] ?? 0
    const ring = Array.from({ length: 25 }, (_, k) =>
      spot(i, [(w / 2) * Math.cos((k * Math.PI) / 12), (h / 2) * Math.sin((k * Math.PI) / 12)]),
    )
    return source === 0 ? '' : source === 1 ? lineThrough([spot(i, [-w / 2, 0]), spot(i, [w / 2, 0])]) : lineThrough(ring)
  }
  const p = n('position')
  const t = n('target')
  if (t.length < 3) return ''
  let d = [0, 1, 2].map((k) => (t[k] ?? 0) - (p[k] ?? 0))
  let long = Math.hypot(...d)
  if (long < 1e-6) [d, long] = [[0, 0, -1], 1]
  const u = d.map((x) => x / long)
  const far = Math.min(Math.max(long, 60), reach)
  const tip = [0, 1, 2].map((k) => (pivot[k] ?? 0) + (u[k] as number) * far)
  const from = spot(i, pivot)
  if (kind === 'directionalLight') return lineThrough([from, spot(i, tip)])
  const half = ((kind === 'camera' ? (n('lensAngle')[0] ?? 40) : (n('coneAngle')[0] ?? 40)) * Math.PI) / 360
  const r = far * Math.tan(Math.min(half, 1.45))
  const up = Math.abs(u[1] as number) > 0.99 ? [1, 0, 0] : [0, 1, 0]
  const cross = (a: number[], b: number[]): number[] =>
    [0, 1, 2].map((k) => (a[(k + 1) % 3] as number) * (b[(k + 2) % 3] as number) - (a[(k + 2) % 3] as number) * (b[(k + 1) % 3] as number))
  const side = cross(u, up)
  const norm = Math.hypot(...side)
  const e1 = side.map((x) => x / norm)
  const e2 = cross(e1, u)
  const count = kind === 'camera' ? 4 : 24
  const wide = kind === 'camera' ? (doc.composition?.width ?? 16) / (doc.composition?.height ?? 9) : 1
  const rim: (Spot | null)[] = Array.from({ length: count }, (_, k) => {
    const a = kind === 'camera' ? Math.PI / 4 + (k * Math.PI) / 2 : (k * 2 * Math.PI) / count
    const [c, s] = kind === 'camera' ? [Math.sign(Math.cos(a)) * wide, Math.sign(Math.sin(a))] : [Math.cos(a), Math.sin(a)]
    return spot(
      i,
      [0, 1, 2].map((m) => (tip[m] as number) + r * (c * (e1[m] as number) + s * (e2[m] as number))),
    )
  })
  const step = count / 4
  return lineThrough(rim, true) + [0, 1, 2, 3].map((k) => lineThrough([from, rim[k * step] ?? null])).join('')
}

const marks = computed(() => {
  void props.drawn
  return shown.value.flatMap((r) => {
    const at = spot(r.i, values(r.id, 'pivot'))
    if (!at) return []
    const item = doc.items.get(r.id)
    return [
      {
        ...r,
        name: item?.name ?? '',
        at,
        extent: r.picked ? extent(r.id, r.i, r.kind) : '',
        drawing: drawings[r.kind],
        label: r.picked || (r.kind === 'null' && (item?.controls?.length ?? 0) > 0),
        small: r.kind === 'null' && !r.picked && !item?.controls?.length,
      },
    ]
  })
})
</script>

<template>
  <svg class="marks" aria-hidden="true">
    <path v-for="m in marks.filter((m) => m.extent)" :key="m.id + 'x'" class="extent" :d="m.extent" />
    <g
      v-for="m in marks"
      :key="m.id"
      class="mark"
      :class="{ picked: m.picked, rig: m.kind !== 'null', small: m.small }"
      :data-mark="m.name"
      :data-marked="m.id"
      :transform="`translate(${m.at[0]} ${m.at[1]})`"
      @pointerdown="emit('grab', $event, m.id)"
      @pointerenter="workspace.hovering = m.id"
      @pointerleave="workspace.hovering = null"
    >
      <title>{{ m.name }}</title>
      <circle class="hit" r="11" />
      <path class="shade" :d="m.drawing" />
      <path :d="m.drawing" />
      <template v-if="m.label">
        <path class="pointer" d="M6 -6L12 -12" />
        <foreignObject x="12" y="-23" width="200" height="20"
          ><span class="label">{{ m.name }}</span></foreignObject
        >
      </template>
    </g>
  </svg>
</template>

<style scoped>
.marks {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.mark {
  pointer-events: auto;
  cursor: move;
}
.hit {
  fill: transparent;
}
.mark path {
  stroke: var(--brass);
  stroke-width: 1.6;
  fill: none;
  stroke-linejoin: round;
  stroke-linecap: round;
}
.mark .shade {
  stroke: var(--card);
  stroke-width: 4;
  opacity: 0.75;
}
/* What only carries others is a faint dot, until it is pointed at. */
.mark.small:not(:hover) path {
  transform: scale(0.28);
  stroke-width: 5;
  opacity: 0.55;
}
.mark.small:not(:hover) .shade {
  opacity: 0.25;
}
.mark .pointer {
  stroke-width: 1;
}
.extent {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1;
  stroke-dasharray: 4 3;
  opacity: 0.9;
}
foreignObject {
  pointer-events: none;
}
.label {
  display: inline-block;
  max-width: 196px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 0 6px;
  font: 600 11px/17px var(--face-heading);
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--brass);
  border-radius: 3px;
}
.picked .label {
  background: var(--brass);
  color: var(--onBrass);
}
</style>
