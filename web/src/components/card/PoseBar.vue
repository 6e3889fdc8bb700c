<script setup lang="ts">
import { computed } from 'vue'
import { useDocument } from '@/stores/document'
import { usePosingStop } from '@/stores/posing'

/** Driven properties that are posed: visibly for the time being, until the pose is kept or dropped. */
const doc = useDocument()
const posing = usePosingStop()
/** But for a control that is shown at one of its stops while that is posed. */
const poses = computed(() => doc.poses.filter((p) => p.item !== posing.at?.item || p.property !== posing.at.control))
const names = computed(
  () =>
    poses.value
      .slice(0, 2)
      .map((p) => doc.nameOf(p))
      .join(', ') + (poses.value.length > 2 ? ` and ${poses.value.length - 2} more` : ''),
)
const mark = (which: string): void => void doc.gesture('mark', { targets: poses.value, which })
const use = (as: string): void => void doc.gesture('use pose', { targets: poses.value, as })
</script>

<template>
  <div v-if="poses.length" class="bar" role="status" @pointerdown.stop>
    <span class="what"
      >Temporary pose: <b>{{ names }}</b></span
    >
    <button class="plain" title="Store it as the first stop of the map" @click="mark('low')">Set low</button>
    <button class="plain" title="Store it as the last stop of the map" @click="mark('high')">Set high</button>
    <button class="plain" title="Add a stop at the source's current value" @click="mark('here')">Add stop</button>
    <button class="plain" title="Give the link the offset that makes it so" @click="use('offset')">Keep as offset</button>
    <button class="plain" title="Store it as the own value, under the links" @click="use('own')">Keep as own value</button>
    <button class="plain" title="Back to what drives it (Esc)" @click="use('')">Discard</button>
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
  border: 1px solid var(--ochre);
  border-radius: 4px;
  font-size: 12px;
}
.what {
  flex: 1;
  min-width: 160px;
  color: var(--ochre);
  overflow: hidden;
  text-overflow: ellipsis;
}
button {
  padding: 0 7px;
  line-height: 18px;
  border: 1px solid var(--line);
  border-radius: 3px;
  white-space: nowrap;
}
button:hover {
  border-color: var(--brass);
  color: var(--brassText);
}
</style>
