<script setup lang="ts">
import { NPopover } from 'naive-ui'
import { computed, useTemplateRef } from 'vue'
import { dragging } from '@/composables/drag'
import { useStepping } from '@/composables/stepping'
import type { Spec } from '@/core/types'

/** A pad for a point: a small one in the row that opens a larger one to drag in. */
const props = defineProps<{ spec: Spec; value: number[] }>()
const emit = defineEmits<{ preview: [value: number[]]; commit: [value: number[]]; cancel: [] }>()
const pad = useTemplateRef<HTMLDivElement>('pad')

const span = computed(() => props.spec.softMax - props.spec.softMin || 1)
const share = (k: number): number => Math.max(0, Math.min(1, ((props.value[k] ?? 0) - props.spec.softMin) / span.value))
const dot = computed(() => ({ left: share(0) * 100 + '%', top: (1 - share(1)) * 100 + '%' }))

function start(event: PointerEvent): void {
  const box = pad.value?.getBoundingClientRect()
  if (!box) return
  const from = [...props.value]
  let value = from
  const at = (e: PointerEvent): number[] => {
    const grain = 10 ** Math.floor(Math.log10(span.value / 100))
    const to = (x: number): number => Math.round((props.spec.softMin + x * span.value) / grain) * grain
    const next = [to((e.clientX - box.left) / box.width), to(1 - (e.clientY - box.top) / box.height), ...from.slice(2)]
    if (!e.shiftKey) return next
    // Shift holds the drag to one axis.
    const across = Math.abs((next[0] ?? 0) - (from[0] ?? 0)) > Math.abs((next[1] ?? 0) - (from[1] ?? 0))
    return across ? [next[0] ?? 0, ...from.slice(1)] : [from[0] ?? 0, next[1] ?? 0, ...from.slice(2)]
  }
  emit('preview', (value = at(event)))
  dragging(
    event,
    (_dx, _dy, e) => emit('preview', (value = at(e))),
    () => emit('commit', value),
    () => emit('cancel'),
  )
}

const stepping = useStepping(() => props.value)
function key(event: KeyboardEvent): void {
  const step: Record<string, [number, number]> = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }
  const by = step[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1
  emit('commit', stepping.to(stepping.from().map((x, k) => x + (by[k] ?? 0) * size)))
}
</script>

<template>
  <NPopover trigger="click" placement="top" :show-arrow="false" raw>
    <template #trigger>
      <button class="plain small" :aria-label="`Pad of ${spec.name}`"><i class="dot" :style="dot" /></button>
    </template>
    <div
      ref="pad"
      class="pad"
      tabindex="0"
      role="application"
      :aria-label="`${spec.name}: drag, or use the arrow keys`"
      @pointerdown.stop="start"
      @keydown="key"
    >
      <i class="dot" :style="dot" />
    </div>
  </NPopover>
</template>

<style scoped>
.small {
  position: relative;
  width: 100%;
  max-width: 120px;
  height: 20px;
  border: 1px solid var(--track);
  border-radius: 3px;
  background:
    linear-gradient(var(--line), var(--line)) 50% / 1px 100% no-repeat,
    linear-gradient(var(--line), var(--line)) 50% / 100% 1px no-repeat;
}
.pad {
  position: relative;
  width: 180px;
  height: 180px;
  background:
    linear-gradient(var(--line), var(--line)) 50% / 1px 100% no-repeat,
    linear-gradient(var(--line), var(--line)) 50% / 100% 1px no-repeat,
    var(--card);
  border: 1px solid var(--brass);
  border-radius: var(--radius);
  cursor: crosshair;
  touch-action: none;
}
.dot {
  position: absolute;
  width: 7px;
  height: 7px;
  margin: -3.5px;
  border-radius: 50%;
  background: var(--brass);
}
.pad .dot {
  width: 11px;
  height: 11px;
  margin: -5.5px;
}
</style>
