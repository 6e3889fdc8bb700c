<script setup lang="ts">
import { computed, watch } from 'vue'
import { said } from '@/composables/notify'
import { usePosing } from '@/composables/posing'
import { useDocument } from '@/stores/document'
import ModeBand from './ModeBand.vue'

/** Over the viewport while a stop is posed: which one, the others, and the way out. */
const doc = useDocument()
const posing = usePosing()

// What is no longer there is no longer posed.
watch([posing.posed, () => doc.compositionId], ([now, composition], [was, before]) => {
  if (!posing.stop.at || (now && composition === before)) return
  if (composition === before && was) said(`Posing has ended: ${was.control.name} has no stop ${was.at.name} any more.`)
  void posing.end()
})
// Whoever moves the control itself has done with posing.
const own = computed(() => (posing.stop.at ? (doc.state(posing.stop.at.item, posing.stop.at.control).own ?? null) : null))
watch([() => posing.stop.at, own], ([at, now], [was, before]) => {
  if (at && at === was && now !== before) void posing.end()
})
</script>

<template>
  <ModeBand v-if="posing.posed.value && posing.stop.at">
    <template #what
      >Posing <b>{{ posing.posed.value.control.name }}: {{ posing.posed.value.at.name }}</b
      >. What you change now belongs to this stop.</template
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
  </ModeBand>
</template>
