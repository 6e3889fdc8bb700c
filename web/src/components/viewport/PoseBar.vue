<script setup lang="ts">
import { computed } from 'vue'
import { useDocument } from '@/stores/document'
import { usePosingStop } from '@/stores/posing'
import { useRecording } from '@/stores/recording'
import ModeBand from './ModeBand.vue'

/** Driven properties that are posed: visibly for the time being, until the pose is kept or dropped. */
const doc = useDocument()
const posing = usePosingStop()
const recording = useRecording()
/** But for a control that is shown at one of its stops while that is posed. */
const poses = computed(() =>
  doc.poses.filter((p) => (p.item !== posing.at?.item || p.property !== posing.at.control) && !(recording.running && recording.isArmed(p))),
)
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
  <ModeBand v-if="poses.length" tone="ochre">
    <template #what
      >Temporary pose: <b>{{ names }}</b></template
    >
    <button class="plain" title="Store it as the first stop of the map" @click="mark('low')">Set low</button>
    <button class="plain" title="Store it as the last stop of the map" @click="mark('high')">Set high</button>
    <button class="plain" title="Add a stop at the source's current value" @click="mark('here')">Add stop</button>
    <button class="plain" title="Give the link the offset that makes it so" @click="use('offset')">Keep as offset</button>
    <button class="plain" title="Store it as the own value, under the links" @click="use('own')">Keep as own value</button>
    <button class="plain" title="Back to what drives it (Esc)" @click="use('')">Discard</button>
  </ModeBand>
</template>
