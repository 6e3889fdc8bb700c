<script setup lang="ts">
import { computed } from 'vue'
import type { Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'

/** Whether there is a pin at this frame, and the way to put one or to take it away. */
const props = defineProps<{ refs: Ref[]; name: string; always?: boolean }>()
const doc = useDocument()
const playback = usePlayback()

/** Whether all have a pin here, or some have any. */
const how = computed<'here' | 'some' | ''>(() => {
  const at = playback.frame
  const all = doc.statesAt(props.refs).map((s) => s.pins ?? [])
  return all.every((pins) => pins.some((p) => p.frame === at)) ? 'here' : all.some((pins) => pins.length) ? 'some' : ''
})
</script>

<template>
  <button
    class="plain pin"
    :class="{ here: how === 'here', some: how, always }"
    :aria-label="how === 'here' ? `Remove the pin of ${name}` : `Pin ${name} at this frame`"
    :aria-pressed="how === 'here'"
    :title="how === 'here' ? 'Remove this pin (a pin is a keyframe)' : 'Pin at this frame (a pin is a keyframe)'"
    @click="doc.gesture('pin', { targets: refs, toggle: true })"
  >
    <svg viewBox="0 0 12 18" aria-hidden="true">
      <path d="M6 9V17" />
      <circle cx="6" cy="5.5" r="3.6" />
    </svg>
  </button>
</template>

<style scoped>
.pin {
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  flex: none;
  opacity: 0.45;
}
.pin svg {
  width: 12px;
  height: 18px;
}
.pin path,
.pin circle {
  stroke: var(--ink2);
  stroke-width: 1.3;
  fill: none;
}
.some,
.always,
.pin:hover,
.pin:focus-visible {
  opacity: 1;
}
.some circle,
.some path,
.pin:hover circle {
  stroke: var(--brass);
}
.here circle {
  fill: var(--brass);
}
</style>
