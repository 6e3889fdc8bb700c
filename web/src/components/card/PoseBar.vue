<script setup lang="ts">
import { computed } from 'vue'
import { useDocument } from '@/stores/document'

/** Driven properties that are posed: visibly for the time being, until the pose is kept or dropped. */
const doc = useDocument()
const names = computed(
  () =>
    doc.poses
      .slice(0, 2)
      .map((p) => doc.nameOf(p))
      .join(', ') + (doc.poses.length > 2 ? ` and ${doc.poses.length - 2} more` : ''),
)
const mark = (which: string): void => void doc.gesture('mark', { targets: doc.poses, which })
const use = (as: string): void => void doc.gesture('use pose', { targets: doc.poses, as })
</script>

<template>
  <div v-if="doc.poses.length" class="bar" role="status" @pointerdown.stop>
    <span class="what"
      >Temporary pose: <b>{{ names }}</b></span
    >
    <button class="plain" title="It becomes what the first stop of the map gives" @click="mark('low')">Mark low</button>
    <button class="plain" title="It becomes what the last stop of the map gives" @click="mark('high')">Mark high</button>
    <button class="plain" title="It becomes a stop at the source's present value" @click="mark('here')">Mark here</button>
    <button class="plain" title="The follow link gets such an offset" @click="use('offset')">new offset</button>
    <button class="plain" title="It becomes the own value under the links" @click="use('own')">own value</button>
    <button class="plain" title="Back to what drives it (Esc)" @click="use('')">drop</button>
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
