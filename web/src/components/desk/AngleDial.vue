<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { dragging } from '@/composables/drag'

/** A dial for an angle of any number of turns: drag around its middle. */
const props = defineProps<{ value: number; label: string }>()
const emit = defineEmits<{ preview: [value: number]; commit: [value: number]; cancel: [] }>()
const dial = useTemplateRef<HTMLDivElement>('dial')

const turns = computed(() => {
  const whole = Math.trunc(props.value / 360)
  if (!whole) return ''
  const rest = Math.round(props.value - whole * 360)
  return `${whole} turn${Math.abs(whole) === 1 ? '' : 's'} ${rest < 0 ? '−' : '+'} ${Math.abs(rest)}°`
})

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

function key(event: KeyboardEvent): void {
  const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
  if (step === undefined) return
  event.preventDefault()
  event.stopPropagation()
  emit('commit', props.value + step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1))
}
</script>

<template>
  <div
    ref="dial"
    class="dial"
    role="slider"
    tabindex="0"
    :aria-label="label"
    :aria-valuenow="value"
    :aria-valuetext="`${value} degrees`"
    @pointerdown.stop="start"
    @keydown="key"
  >
    <svg viewBox="0 0 20 20" aria-hidden="true">
      <circle cx="10" cy="10" r="8.2" />
      <path d="M10 10H17" :transform="`rotate(${-value} 10 10)`" />
    </svg>
  </div>
  <span class="turns quiet">{{ turns }}</span>
</template>

<style scoped>
.dial {
  width: 20px;
  height: 20px;
  flex: none;
  cursor: grab;
  touch-action: none;
  margin-left: 5px;
  border-radius: 50%;
}
svg {
  width: 20px;
  height: 20px;
  display: block;
  fill: none;
}
circle {
  stroke: var(--track);
  stroke-width: 2;
}
path {
  stroke: var(--brass);
  stroke-width: 2.4;
  stroke-linecap: round;
}
.turns {
  font-size: 10px;
  margin-left: 5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
