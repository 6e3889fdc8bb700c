<script setup lang="ts">
import { computed } from 'vue'
import { dragging } from '@/composables/drag'
import type { Point3, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useRecording } from '@/stores/recording'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import type { Stage } from '@/viewport/stage'

/** Controls that are points, as handles where they stand in the composition: of what is selected, the picked one, and what is armed. */
const props = defineProps<{ stage: Stage; drawn: number }>()
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const recording = useRecording()

const handles = computed(() => {
  void props.drawn
  const picked = selection.control
  const owners = new Set([...(picked ? [picked.item] : []), ...recording.armed.map((r) => r.item)])
  return doc.controlled.flatMap((id) => {
    if (!selection.has(id) && !owners.has(id)) return []
    const item = doc.items.get(id)
    return (item?.controls ?? [])
      .filter((c) => c.kind === 'point')
      .flatMap((c) => {
        const spec = doc.spec(id, c.id)
        const [x = 0, y = 0, z = 0] = spec ? doc.numbers(id, spec) : []
        const at = props.stage.sights.project([x, y, z])
        return at ? [{ ref: { item: id, property: c.id }, name: c.name, value: [x, y, z] as Point3, depth: c.depth === true, at }] : []
      })
  })
})

/** Drags a point; Shift keeps to one axis. */
function drag(event: PointerEvent, ref: Ref, from: Point3, depth: boolean): void {
  selection.pickControl(ref)
  let value = from.slice(0, depth ? 3 : 2)
  dragging(
    event,
    (dx, dy, e) => {
      if (e.shiftKey) {
        if (Math.abs(dx) > Math.abs(dy)) dy = 0
        else dx = 0
      }
      const by = props.stage.sights.way(dx, dy, from)
      value = from.map((x, k) => Math.round((x + (by[k] ?? 0)) * 100) / 100).slice(0, depth ? 3 : 2)
      void doc.preview('set', { targets: [ref], value })
    },
    (moved) => moved && void doc.gesture('set', { targets: [ref], value }),
    doc.cancelPreview,
  )
}
</script>

<template>
  <svg class="points" aria-hidden="true">
    <g
      v-for="h in handles"
      :key="h.ref.item + h.ref.property"
      class="handle"
      :data-point="h.name"
      :transform="`translate(${h.at[0]} ${h.at[1]})`"
      @pointerdown.stop="drag($event, h.ref, h.value, h.depth)"
      @pointerenter="wiring.hovered = h.ref"
      @pointerleave="wiring.hovered = null"
    >
      <circle class="hit" r="11" />
      <path class="shade" d="M-9 0H9M0 -9V9M-5 -5H5V5H-5Z" />
      <path d="M-9 0H9M0 -9V9M-5 -5H5V5H-5Z" />
      <text x="10" y="-8">{{ h.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
.points {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.handle {
  pointer-events: auto;
  cursor: move;
}
.hit {
  fill: transparent;
}
path {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.6;
}
.shade {
  stroke: var(--card);
  stroke-width: 4;
  opacity: 0.75;
}
text {
  font: 600 11px var(--face-heading);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 3;
}
</style>
