<script setup lang="ts">
import { computed } from 'vue'

/** An easing, drawn small: time across, the rise up. */
const props = defineProps<{ drawn: number[] }>()
const path = computed(() => {
  const low = Math.min(0, ...props.drawn)
  const high = Math.max(1, ...props.drawn)
  const y = (v: number): number => 13 - (11 * (v - low)) / (high - low)
  return props.drawn.map((v, k) => `${k ? 'L' : 'M'}${(1 + (16 * k) / (props.drawn.length - 1)).toFixed(1)} ${y(v).toFixed(1)}`).join('')
})
</script>

<template>
  <svg viewBox="0 0 18 15" aria-hidden="true"><path :d="path" /></svg>
</template>

<style scoped>
svg {
  display: block;
  width: 18px;
  height: 15px;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.4;
  stroke-linejoin: round;
}
</style>
