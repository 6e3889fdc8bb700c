<script setup lang="ts">
import { computed, watch } from 'vue'
import { usePosing } from '@/composables/posing'
import { useDocument } from '@/stores/document'

/** Over the viewport while a stop is posed: which one, the others, and the way out. */
const doc = useDocument()
const posing = usePosing()

// What is no longer there is no longer posed.
watch([posing.posed, () => doc.compositionId], ([now, composition], [, before]) => {
  if (posing.stop.at && (!now || composition !== before)) void posing.end()
})
// Whoever moves the control itself has done with posing.
const own = computed(() => (posing.stop.at ? (doc.state(posing.stop.at.item, posing.stop.at.control).own ?? null) : null))
watch([() => posing.stop.at, own], ([at, now], [was, before]) => {
  if (at && at === was && now !== before) void posing.end()
})
</script>

<template>
  <div v-if="posing.posed.value && posing.stop.at" class="bar" role="status" @pointerdown.stop>
    <span class="what"
      >Posing <b>{{ posing.posed.value.control.name }}: {{ posing.posed.value.at.name }}</b
      >. What you change now belongs to this stop.</span
    >
    <button
      v-for="s in posing.posed.value.control.poses"
      :key="s.id"
      class="plain"
      :aria-pressed="s.id === posing.stop.at.stop"
      @click="posing.begin({ item: posing.stop.at.item, control: posing.stop.at.control, stop: s.id })"
    >
      {{ s.name }}
    </button>
    <button class="plain done" title="Esc" @click="posing.end">Done</button>
  </div>
</template>

<style scoped>
.bar {
  position: absolute;
  left: 8px;
  right: 8px;
  top: 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  padding: 4px 8px;
  background: var(--card);
  border: 2px solid var(--brass);
  border-radius: 4px;
  font-size: 12px;
  z-index: 3;
}
.what {
  flex: 1;
  min-width: 160px;
}
button {
  padding: 0 8px;
  min-height: 24px;
  border: 1px solid var(--line);
  border-radius: 3px;
  white-space: nowrap;
}
button[aria-pressed='true'] {
  background: var(--brass);
  color: var(--onBrass);
}
.done {
  border-color: var(--brass);
  color: var(--brassText);
}
</style>
