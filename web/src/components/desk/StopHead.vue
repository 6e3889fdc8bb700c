<script setup lang="ts">
import { computed } from 'vue'
import IconTrash from '~icons/tabler/trash'
import { easings } from '@/composables/links'
import { usePosing } from '@/composables/posing'
import type { Control, Easing, Id, PoseStop } from '@/core/types'
import { useDocument } from '@/stores/document'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import EditableName from '@/components/shared/EditableName.vue'
import ValueField from '@/components/shared/ValueField.vue'
import StopPicture from './StopPicture.vue'

/** A stop at the head of the table of what a control moves: its name, picture and place, and what can be done with it. */
const props = defineProps<{ item: Id; control: Control; place: number; unit?: string }>()
const doc = useDocument()
const posing = usePosing()

const stops = computed(() => props.control.poses ?? [])
const s = computed<PoseStop>(() => stops.value[props.place] ?? { id: '', name: '', easing: 'linear' })
const self = computed(() => ({ item: props.item, control: props.control.id }))
const at = computed(() => ({ ...self.value, stop: s.value.id }))
const fader = computed(() => props.control.kind === 'fader')

/** Shows the stop: the control goes there. */
function go(): void {
  const targets = [{ item: props.item, property: props.control.id }]
  void doc.gesture('set', { targets, value: posing.placeOf(props.control, props.place) })
}
</script>

<template>
  <div class="stop">
    <EditableName label="Name of the stop" :name="s.name" @rename="(name) => doc.gesture('set stop', { ...at, name })" />
    <button class="plain act" :title="`Show ${s.name}`" @click="go()">
      <StopPicture :item="item" :control="control.id" :value="posing.placeOf(control, place)" />Show
    </button>
    <button class="plain act" :title="`Pose ${s.name}`" @click="posing.begin(at)">Pose</button>
  </div>
  <div class="stop">
    <template v-if="fader">
      <ValueField
        :label="`Place of ${s.name}`"
        :value="s.at ?? 0"
        :unit="unit"
        @preview="(x) => doc.preview('set stop', { ...at, at: x })"
        @commit="(x) => doc.gesture('set stop', { ...at, at: x })"
        @cancel="doc.cancelPreview"
      />
      <ChoiceField
        v-if="place < stops.length - 1"
        class="easing"
        size="tiny"
        :value="s.easing"
        :options="easings"
        :label="`Easing after ${s.name}`"
        @update:value="(easing: Easing) => doc.gesture('set stop', { ...at, easing })"
      />
    </template>
    <template v-else-if="control.kind === 'choice'">
      <button
        class="plain act"
        :disabled="!place"
        :aria-label="`Move ${s.name} left`"
        @click="doc.gesture('set stop', { ...at, place: place - 1 })"
      >
        ←
      </button>
      <button
        class="plain act"
        :disabled="place === stops.length - 1"
        :aria-label="`Move ${s.name} right`"
        @click="doc.gesture('set stop', { ...at, place: place + 1 })"
      >
        →
      </button>
    </template>
    <button
      v-if="control.kind !== 'switch'"
      class="plain act"
      @click="doc.gesture('add stop', { ...self, like: s.id, at: fader ? (s.at ?? 0) : undefined })"
    >
      Duplicate
    </button>
    <button v-if="stops.length > 2" class="plain act" :aria-label="`Remove ${s.name}`" @click="doc.gesture('remove stop', at)">
      <IconTrash />
    </button>
  </div>
</template>

<style scoped>
.stop {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 24px;
}
.easing {
  width: 86px;
}
</style>
<style scoped src="./act.css" />
