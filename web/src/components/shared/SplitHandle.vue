<script setup lang="ts">
import { dragging } from '@/composables/drag'

const size = defineModel<number>({ required: true })
const props = defineProps<{ direction: 'right' | 'left' | 'up'; label: string; min: number; max: number }>()

const sign = { right: 1, left: -1, up: -1 }[props.direction]
const across = props.direction === 'up'
const hold = (x: number): number => Math.max(props.min, Math.min(props.max, x))

function start(event: PointerEvent): void {
  const from = size.value
  dragging(event, (dx, dy) => (size.value = hold(from + sign * (across ? dy : dx))))
}

function key(event: KeyboardEvent): void {
  const step = { ArrowRight: 16, ArrowDown: 16, ArrowLeft: -16, ArrowUp: -16 }[event.key]
  if (step === undefined) return
  event.preventDefault()
  event.stopPropagation()
  size.value = hold(size.value + sign * step)
}
</script>

<template>
  <div
    class="split"
    :class="{ across }"
    role="separator"
    tabindex="0"
    :aria-label="label"
    :aria-orientation="across ? 'horizontal' : 'vertical'"
    :aria-valuenow="size"
    :aria-valuemin="min"
    :aria-valuemax="max"
    @pointerdown="start"
    @keydown="key"
  />
</template>

<style scoped>
.split {
  position: relative;
  background: var(--line);
  z-index: 2;
  cursor: col-resize;
  touch-action: none;
}
.split::after {
  content: '';
  position: absolute;
  inset: 0 -5px 0 -7px;
}
.split.across {
  cursor: row-resize;
}
.split.across::after {
  inset: -8px 0 -3px;
}
</style>
