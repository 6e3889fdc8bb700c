<script setup lang="ts">
import { computed } from 'vue'
import { short } from '@/composables/format'
import { usePlayback } from '@/stores/playback'
import { useTimeline } from '@/stores/timeline'

/** What curves are read by: lines at the seconds, the range of one of them up, and where the pointer is. */
const props = defineProps<{ width: number; height: number; pad: number; range?: [number, number]; unit: string; hover: number | null }>()
const playback = usePlayback()
const timeline = useTimeline()

const seconds = computed(() => {
  const step = [1, 2, 5, 10, 30, 60, 300, 600].find((s) => s * playback.rate * timeline.perFrame >= 56) ?? 600
  const out: number[] = []
  for (let s = 0; s * playback.rate <= playback.frames; s += step) out.push(timeline.x(s * playback.rate))
  return out
})
const values = computed(() => {
  if (!props.range) return []
  const [lo, hi] = props.range
  return [0, 0.5, 1].map((s) => ({
    y: props.height - props.pad - s * (props.height - 2 * props.pad),
    label: `${short(lo + s * (hi - lo))} ${props.unit}`,
  }))
})
</script>

<template>
  <g class="marks" aria-hidden="true">
    <path v-for="s in seconds" :key="s" :d="`M${s} 0V${height}`" />
    <g v-for="v in values" :key="v.y">
      <path :d="`M0 ${v.y}H${width}`" />
      <text x="3" :y="v.y - 2">{{ v.label }}</text>
    </g>
    <path v-if="hover !== null" class="hover" :d="`M${timeline.x(hover)} 0V${height}`" />
  </g>
</template>

<style scoped>
path {
  stroke: var(--line);
  stroke-width: 1;
  fill: none;
}
.hover {
  stroke: var(--ink2);
  stroke-dasharray: 3 3;
}
text {
  font: 11px var(--face-figures);
  fill: var(--ink2);
}
</style>
