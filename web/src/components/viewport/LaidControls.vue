<script setup lang="ts">
import { computed } from 'vue'
import { dragging } from '@/composables/drag'
import { usePlaces } from '@/composables/places'
import type { Control, Id, Item, Point3, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import type { Stage } from '@/viewport/stage'
import ControlWidget from '@/components/desk/ControlWidget.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** Controls that are in the viewport: they stay where they are in the composition, or travel with an item. */
const props = defineProps<{ stage: Stage; drawn: number }>()
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const { onCanvas, values, world } = usePlaces(() => props.stage)

interface Widget {
  item: Item
  control: Control
  spec: Spec
  at: [number, number]
  from: Point3
}

const laid = computed(() =>
  doc.controlled.flatMap((id) => {
    const item = doc.items.get(id)
    return (item?.controls ?? []).flatMap((control) => (item && control.laid ? [{ item, control }] : []))
  }),
)

/** Where the place of a control is counted from. */
function origin(carrier: Id | undefined): Point3 {
  const index = carrier === undefined ? undefined : doc.indexes.get(carrier)
  return index === undefined ? [0, 0, 0] : world(index, values(carrier ?? '', 'pivot'))
}

const widgets = computed<Widget[]>(() => {
  void props.drawn
  return laid.value.flatMap(({ item, control }) => {
    const spec = doc.spec(item.id, control.id)
    const from = origin(control.laid?.with)
    const [x, y] = control.laid?.at ?? [0, 0]
    const at = onCanvas([from[0] + x, from[1] + y, from[2]])
    return spec && at ? [{ item, control, spec, at, from }] : []
  })
})

const set = (w: Widget, what: Control['laid'], how: 'preview' | 'gesture'): void =>
  void doc[how]('operations', {
    ops: [{ op: 'control.set', composition: doc.compositionId, item: w.item.id, value: { ...w.control, laid: what } }],
  })

function drag(event: PointerEvent, w: Widget): void {
  const [x, y] = w.control.laid?.at ?? [0, 0]
  let laidAt = w.control.laid
  selection.pickControl({ item: w.item.id, property: w.control.id })
  dragging(
    event,
    (dx, dy) => {
      const by = props.stage.sights.way(dx, dy, [w.from[0] + x, w.from[1] + y, w.from[2]])
      laidAt = { ...w.control.laid, at: [Math.round(x + (by[0] ?? 0)), Math.round(y + (by[1] ?? 0))] }
      set(w, laidAt, 'preview')
    },
    (moved) => moved && set(w, laidAt, 'gesture'),
    doc.cancelPreview,
  )
}

function options(w: Widget) {
  const carrier = selection.ids[0]
  const name = carrier && doc.items.get(carrier)?.name
  return [
    {
      key: 'travel',
      label: name ? `Attach to ${name}` : 'Travel with the selected item',
      disabled: !carrier || w.control.laid?.with === carrier,
    },
    { key: 'stay', label: 'Fix in place', disabled: !w.control.laid?.with },
    { key: 'off', label: 'Hide from viewport' },
  ]
}

function run(key: string, w: Widget): void {
  if (key === 'off') return set(w, undefined, 'gesture')
  const carrier = key === 'travel' ? selection.ids[0] : undefined
  const to = origin(carrier)
  const at = (w.control.laid?.at ?? [0, 0]).map((x, k) => Math.round(x + (w.from[k] ?? 0) - (to[k] ?? 0))) as [number, number]
  set(w, { at, with: carrier }, 'gesture')
}
</script>

<template>
  <div
    v-for="w in widgets"
    :key="w.item.id + w.control.id"
    class="laid"
    role="group"
    :aria-label="`${w.control.name}, in the viewport`"
    :data-laid="w.control.name"
    :style="{ left: w.at[0] + 'px', top: w.at[1] + 'px' }"
    @pointerdown.stop
    @dblclick.stop
    @pointerenter="wiring.hovered = { item: w.item.id, property: w.control.id }"
    @pointerleave="wiring.hovered = null"
  >
    <span class="name" :title="`${w.control.name} of ${w.item.name}; drag to move it`" @pointerdown="drag($event, w)">{{
      w.control.name
    }}</span>
    <ControlWidget :item="w.item.id" :spec="w.spec" :driven="(doc.state(w.item.id, w.control.id).links?.length ?? 0) > 0" />
    <MenuList trigger="click" size="small" :options="options(w)" @select="(key: string) => run(key, w)"
      ><button class="plain menu" :aria-label="`Actions for ${w.control.name} on the viewport`">⋯</button></MenuList
    >
  </div>
</template>

<style scoped>
.laid {
  position: absolute;
  display: flex;
  align-items: center;
  gap: 6px;
  height: 28px;
  padding: 0 6px;
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--line);
  border-left: 3px solid var(--brass);
  border-radius: 4px;
  font-size: 12px;
}
.laid :deep(.widget) {
  width: 84px;
}
.name {
  font: 600 12px var(--face-heading);
  cursor: move;
  max-width: 120px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  touch-action: none;
}
.menu {
  color: var(--ink2);
  border-radius: 3px;
}
.menu:hover {
  background: var(--picked);
}
</style>
