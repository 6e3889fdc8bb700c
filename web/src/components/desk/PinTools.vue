<script setup lang="ts">
import { computed } from 'vue'
import type { Easing } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'

/** What can be done with the pins that are picked. */
const doc = useDocument()
const selection = useSelection()

const easings: { value: Easing; label: string; path: string }[] = [
  { value: 'hold', label: 'Hold', path: 'M1 9H9V2H15' },
  { value: 'linear', label: 'Linear', path: 'M1 10L15 1' },
  { value: 'smooth', label: 'Smooth', path: 'M1 10C7 10 9 1 15 1' },
]
const current = computed(() => {
  const all = new Set(selection.pins.map((p) => doc.state(p.item, p.property).pins?.find((q) => q.frame === p.frame)?.easing))
  return all.size === 1 ? [...all][0] : undefined
})

async function drop(): Promise<void> {
  const pins = selection.pins
  selection.pins = []
  await doc.gesture('drop pins', { pins })
}
</script>

<template>
  <div v-if="selection.pins.length" class="tools" role="group" aria-label="Picked pins">
    <span class="quiet">{{
      selection.pins.length === 1 ? `pin at frame ${selection.pins[0]?.frame}` : `${selection.pins.length} pins`
    }}</span>
    <button
      v-for="e in easings"
      :key="e.value"
      class="plain ease"
      :class="{ on: current === e.value }"
      :aria-pressed="current === e.value"
      @click="doc.gesture('ease pins', { pins: selection.pins, easing: e.value })"
    >
      <svg viewBox="0 0 16 11" aria-hidden="true"><path :d="e.path" /></svg>{{ e.label }}
    </button>
    <button class="plain ease" @click="drop">Remove</button>
  </div>
  <span v-else class="quiet hint">Double-click a track to add a pin</span>
</template>

<style scoped>
.tools {
  display: flex;
  align-items: center;
  gap: 4px;
  font-size: 12px;
}
.ease {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 1px 7px;
  border-radius: 4px;
  border: 1px solid transparent;
}
.ease:hover {
  background: var(--picked);
}
.ease.on {
  border-color: var(--brass);
  color: var(--brassText);
  background: var(--card);
}
svg {
  width: 16px;
  height: 11px;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.4;
}
.hint {
  font-size: 12px;
}
</style>
