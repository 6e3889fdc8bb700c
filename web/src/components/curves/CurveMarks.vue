<script setup lang="ts">
import { computed } from 'vue'
import { short } from '@/composables/format'
import { usePlayback } from '@/stores/playback'

/** What curves are read by: seconds across, the range of one of them up, and where the pointer is. */
const props = defineProps<{ width: number; height: number; pad: number; range?: [number, number]; unit: string; hover: number | null }>()
const playback = usePlayback()

const x = (frame: number): number => (frame / Math.max(1, playback.frames - 1)) * props.width
const seconds = computed(() => {
  const all = playback.frames / playback.rate
  const step = [1, 2, 5, 10, 30, 60, 300, 600].find((s) => (s / all) * props.width >= 60) ?? 600
  return Array.from({ length: Math.floor(all / step) + 1 }, (_, k) => ({ x: x(k * step * playback.rate), label: `${k * step} s` }))
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
    <g v-for="s in seconds" :key="s.x">
      <path :d="`M${s.x} 0V${height}`" />
      <text :x="s.x + 3" :y="height - 2">{{ s.label }}</text>
    </g>
    <g v-for="v in values" :key="v.y">
      <path :d="`M0 ${v.y}H${width}`" />
      <text x="3" :y="v.y - 2">{{ v.label }}</text>
    </g>
    <path v-if="hover !== null" class="hover" :d="`M${x(hover)} 0V${height}`" />
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
  font: 10px var(--face-figures);
  fill: var(--ink2);
}
</style>
