<script setup lang="ts">
import { computed } from 'vue'
import type { Fit } from '@/core/types'
import { hanging } from './sheet/hanging'

/** A cable between two ports, with what is turned on the way written on it. */
const props = defineProps<{
  sourceX: number
  sourceY: number
  targetX: number
  targetY: number
  label?: string
  fit?: Fit
  selected?: boolean
  over?: boolean // a slip is about to go between
}>()
const emit = defineEmits<{ doubt: [x: number, y: number] }>()
const path = computed(() => hanging({ x: props.sourceX, y: props.sourceY }, { x: props.targetX, y: props.targetY }))
const wrong = computed(() => props.fit?.refused || props.fit?.doubt)
</script>

<template>
  <g>
    <path class="cable grip" :d="path" />
    <path class="cable" :class="{ picked: selected, over, wrong }" :d="path" />
    <text v-if="label" class="part figures" :x="(sourceX + targetX) / 2" :y="(sourceY + targetY) / 2 + 4">{{ label }}</text>
    <text
      v-if="wrong"
      class="sign"
      role="button"
      tabindex="0"
      :aria-label="wrong"
      :x="targetX - 26"
      :y="targetY - 5"
      @click.stop="(e) => emit('doubt', e.clientX, e.clientY)"
      @keydown.enter.stop="emit('doubt', 0, 0)"
    >
      <title>{{ wrong }}</title>
      !
    </text>
  </g>
</template>

<style scoped>
.cable {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.5;
}
.cable.grip {
  stroke: transparent;
  stroke-width: 12;
}
.cable.picked,
.cable.over {
  stroke-width: 3;
}
.cable.wrong {
  stroke-dasharray: 6 3;
}
.part {
  font-size: 11px;
  fill: var(--ink2);
  text-anchor: middle;
  stroke: var(--ground);
  stroke-width: 3px;
  paint-order: stroke;
}
.sign {
  font: 700 14px var(--face-heading);
  fill: var(--oxblood);
  cursor: pointer;
  pointer-events: all;
}
</style>
