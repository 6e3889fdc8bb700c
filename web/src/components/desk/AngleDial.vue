<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { dragging } from '@/composables/drag'
import { useStepping } from '@/composables/stepping'

/** A dial for an angle of any number of turns: drag around its middle. */
const props = defineProps<{ value: number; label: string; tall?: boolean }>()
const emit = defineEmits<{ preview: [value: number]; commit: [value: number]; cancel: [] }>()
const dial = useTemplateRef<HTMLDivElement>('dial')

/** Whole turns, as ticks around the rim; beyond a dozen they are counted only. */
const most = 12
const turns = computed(() => Math.trunc(props.value / 360))
const ticks = computed(() =>
  Array.from({ length: Math.min(most, Math.abs(turns.value)) }, (_, k) => ((turns.value < 0 ? 1 : -1) * (k * 360)) / most),
)

function start(event: PointerEvent): void {
  const box = dial.value?.getBoundingClientRect()
  if (!box) return
  const cx = box.left + box.width / 2
  const cy = box.top + box.height / 2
  const angle = (e: PointerEvent): number => (Math.atan2(cy - e.clientY, e.clientX - cx) * 180) / Math.PI
  let last = angle(event)
  let value = props.value
  dragging(
    event,
    (_dx, _dy, e) => {
      const now = angle(e)
      value += ((now - last + 540) % 360) - 180 // the short way round, so that turns add up
      last = now
      const grain = e.shiftKey ? 15 : 1
      emit('preview', Math.round(value / grain) * grain)
    },
    (moved) => moved && emit('commit', Math.round(value)),
    () => emit('cancel'),
  )
}

const stepping = useStepping(() => props.value)
function key(event: KeyboardEvent): void {
  const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
  if (step === undefined) return
  event.preventDefault()
  event.stopPropagation()
  emit('commit', stepping.to(stepping.from() + step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)))
}
</script>

<template>
  <div
    ref="dial"
    class="dial"
    :class="{ tall }"
    title="Counter-clockwise is positive"
    role="slider"
    tabindex="0"
    :aria-label="label"
    :aria-valuenow="value"
    :aria-valuetext="`${value} degrees`"
    @pointerdown.stop="start"
    @keydown="key"
  >
    <svg viewBox="-14 -14 28 28" aria-hidden="true">
      <circle r="9" />
      <path class="way" d="M0 -12a12 12 0 0 0 -6 1.6M-6 -10.400l1.200 -2.200M-6 -10.400l2.400 .4" />
      <path v-for="t in ticks" :key="t" class="tick" d="M10.500 0H13" :transform="`rotate(${t})`" />
      <path class="hand" d="M0 0H7.500" :transform="`rotate(${-value})`" />
    </svg>
  </div>
</template>

<style scoped>
.dial {
  width: 26px;
  height: 26px;
  flex: none;
  cursor: grab;
  touch-action: none;
  margin-left: 5px;
  border-radius: 50%;
}
.dial.tall {
  width: 38px;
  height: 38px;
}
svg {
  width: 100%;
  height: 100%;
  display: block;
  fill: none;
  stroke-linecap: round;
}
circle {
  stroke: var(--track);
  stroke-width: 1.6;
}
.hand {
  stroke: var(--brass);
  stroke-width: 2.4;
}
.tick {
  stroke: var(--brass);
  stroke-width: 2;
}
.way {
  stroke: var(--ink2);
  stroke-width: 1;
}
</style>
