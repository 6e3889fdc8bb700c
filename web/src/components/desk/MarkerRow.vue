<script setup lang="ts">
import { computed } from 'vue'
import { useDocument } from '@/stores/document'
import { useTimeline } from '@/stores/timeline'
import MarkerFlag from './MarkerFlag.vue'

/** Under the ruler: named places in time. The name of each has room up to the next one. */
const doc = useDocument()
const timeline = useTimeline()
const markers = computed(() => {
  const all = doc.composition?.markers ?? []
  return all.map((marker, k) => ({ marker, room: Math.min(160, timeline.x(all[k + 1]?.frame ?? Infinity) - timeline.x(marker.frame)) }))
})
</script>

<template>
  <div class="markers">
    <MarkerFlag v-for="m in markers" :key="m.marker.id" :marker="m.marker" :room="m.room" />
  </div>
</template>

<style scoped>
.markers {
  position: relative;
  height: 24px;
  overflow: hidden;
}
</style>
