<script setup lang="ts">
/** The band over the viewport that says which mode it is in, with the mode's buttons and its way out. */
defineProps<{ tone?: 'brass' | 'ochre' }>()
</script>

<template>
  <div class="band" :class="tone" role="status" @pointerdown.stop>
    <span class="what"><slot name="what" /></span>
    <slot />
  </div>
</template>

<style scoped>
.band {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  padding: 4px 8px;
  background: var(--card);
  border: 2px solid var(--brass);
  border-radius: 4px;
  font-size: 12px;
  pointer-events: auto;
}
.ochre {
  border: 1px solid var(--ochre);
}
.what {
  flex: 1;
  min-width: 160px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.ochre .what {
  color: var(--ochre);
}
.band :slotted(button) {
  padding: 0 8px;
  min-height: 24px;
  border: 1px solid var(--line);
  border-radius: 3px;
  white-space: nowrap;
}
.band :slotted(button:hover) {
  border-color: var(--brass);
  color: var(--brassText);
}
.band :slotted(button[aria-pressed='true']) {
  background: var(--brass);
  color: var(--onBrass);
}
.band :slotted(button.done) {
  border-color: var(--brass);
  color: var(--brassText);
}
</style>
