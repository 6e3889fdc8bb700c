<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { dragging } from '@/composables/drag'
import { short } from '@/composables/format'
import { useStepping } from '@/composables/stepping'
import type { PoseStop, Spec } from '@/core/types'

/** A fader over the soft range of a control. A value beyond it leaves the handle at the end. */
const props = defineProps<{ spec: Spec; value: number; stops?: PoseStop[] }>()
const emit = defineEmits<{
  preview: [value: number]
  commit: [value: number]
  cancel: []
  /** A stop is dragged to another place, or was. */
  stop: [how: 'preview' | 'gesture', stop: PoseStop, at: number]
}>()
const rail = useTemplateRef<HTMLDivElement>('rail')

const span = computed(() => props.spec.softMax - props.spec.softMin || 1)
const share = computed(() => Math.max(0, Math.min(1, (props.value - props.spec.softMin) / span.value)))
const zero = computed(() => Math.max(0, Math.min(1, -props.spec.softMin / span.value)))

/** Rounded to what one pixel of the rail can tell. */
function round(x: number): number {
  const grain = props.spec.whole ? 1 : 10 ** Math.floor(Math.log10(span.value / 200))
  const held = Math.max(props.spec.min ?? -Infinity, Math.min(props.spec.max ?? Infinity, x))
  return Number((Math.round(held / grain) * grain).toPrecision(12))
}

/** The value under a place of the rail. */
const under = (box: DOMRect, clientX: number): number =>
  round(props.spec.softMin + Math.max(0, Math.min(1, (clientX - box.left) / box.width)) * span.value)
const beside = (box: DOMRect, clientX: number): boolean => Math.abs(clientX - box.left - share.value * box.width) > 6

/** A press on a stop goes there; a drag moves the stop, unless the handle lies on it. */
function grip(event: PointerEvent, s: PoseStop): void {
  const box = rail.value?.getBoundingClientRect()
  if (!box || !beside(box, event.clientX)) return start(event)
  let to = s.at ?? 0
  dragging(
    event,
    (_dx, _dy, e) => emit('stop', 'preview', s, (to = under(box, e.clientX))),
    (moved) => (moved ? emit('stop', 'gesture', s, to) : emit('commit', to)),
    () => emit('cancel'),
  )
}

function start(event: PointerEvent): void {
  const box = rail.value?.getBoundingClientRect()
  if (!box) return
  const at = (clientX: number): number => under(box, clientX)
  // Pressing beside the handle takes it there; on the handle, it stays until it is moved.
  const pressed = props.value
  let value = beside(box, event.clientX) ? at(event.clientX) : props.value
  if (value !== props.value) emit('preview', value)
  dragging(
    event,
    (_dx, _dy, e) => emit('preview', (value = at(e.clientX))),
    () => (pressed === value ? emit('cancel') : emit('commit', value)),
    () => emit('cancel'),
  )
}

const stepping = useStepping(() => props.value)
function key(event: KeyboardEvent): void {
  const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key]
  const to = event.key === 'Home' ? props.spec.softMin : event.key === 'End' ? props.spec.softMax : undefined
  if (step === undefined && to === undefined) return
  event.preventDefault()
  event.stopPropagation()
  const size = (props.spec.step || 1) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)
  emit('commit', stepping.to(to ?? round(stepping.from() + (step ?? 0) * size)))
}
</script>

<template>
  <div
    ref="rail"
    class="rail"
    role="slider"
    tabindex="0"
    :aria-label="spec.name"
    :aria-valuenow="value"
    :aria-valuemin="spec.softMin"
    :aria-valuemax="spec.softMax"
    :aria-valuetext="[stops?.find((s) => (s.at ?? 0) === value)?.name, `${short(value)} ${spec.unit}`].filter(Boolean).join(', ')"
    @pointerdown.stop="start"
    @keydown="key"
  >
    <i class="from" :style="{ left: Math.min(zero, share) * 100 + '%', width: Math.abs(share - zero) * 100 + '%' }" />
    <i
      v-for="s in stops"
      :key="s.id"
      class="stop"
      :class="{ here: value === (s.at ?? 0) }"
      :style="{ left: Math.max(0, Math.min(1, ((s.at ?? 0) - spec.softMin) / span)) * 100 + '%' }"
      aria-hidden="true"
      :title="`${s.name}: click to go there, drag to move it`"
      @pointerdown.stop="grip($event, s)"
    />
    <i class="handle" :class="{ under: value < spec.softMin, above: value > spec.softMax }" :style="{ left: share * 100 + '%' }" />
  </div>
</template>

<style scoped>
.rail {
  position: relative;
  width: 100%;
  height: 24px;
  margin: 0 9px;
  cursor: ew-resize;
  touch-action: none;
}
.rail::before {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  top: 11px;
  height: 2px;
  border-radius: 1px;
  background: var(--track);
}
.from {
  position: absolute;
  top: 10.5px;
  height: 3px;
  background: var(--brass);
  border-radius: 1px;
}
.handle {
  position: absolute;
  top: 4px;
  width: 9px;
  height: 16px;
  margin-left: -4.5px;
  border: 1.5px solid var(--brass);
  border-radius: 2px;
  background: var(--card);
}
.handle::after {
  content: '';
  position: absolute;
  left: 2.25px;
  top: 3px;
  bottom: 3px;
  width: 1.5px;
  background: var(--brass);
}
/* A value beyond the range: an arrow points on from the end. */
.under::before,
.above::before {
  content: '';
  position: absolute;
  top: 3px;
  border: 4px solid transparent;
}
.under::before {
  right: 9px;
  border-right-color: var(--ochre);
}
.above::before {
  left: 9px;
  border-left-color: var(--ochre);
}
.under,
.above {
  border-color: var(--ochre);
}
.stop {
  position: absolute;
  top: 50%;
  width: 24px;
  height: 24px;
  margin: -12px 0 0 -12px;
  display: grid;
  place-items: center;
}
.stop::after {
  content: '';
  width: 9px;
  height: 9px;
  border-radius: 50%;
  border: 2px solid var(--brass);
  background: var(--card);
}
.stop.here::after {
  background: var(--brass);
}
</style>
