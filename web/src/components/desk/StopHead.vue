<script setup lang="ts">
import { computed } from 'vue'
import { easings } from '@/composables/links'
import { usePosing } from '@/composables/posing'
import type { Control, Easing, Id, PoseStop } from '@/core/types'
import { useDocument } from '@/stores/document'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import MenuList from '@/components/shared/MenuList.vue'
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

/** What can be done with a stop besides naming, placing and posing it. */
const options = computed(() => {
  const choice = props.control.kind === 'choice'
  return [
    ...(choice ? [{ key: 'left', label: 'Move left', disabled: !props.place }] : []),
    ...(choice ? [{ key: 'right', label: 'Move right', disabled: props.place === stops.value.length - 1 }] : []),
    { key: 'duplicate', label: 'Duplicate', disabled: props.control.kind === 'switch' },
    { key: 'remove', label: 'Delete', disabled: stops.value.length < 3 },
  ]
})
function run(key: string): void {
  if (key === 'remove') void doc.gesture('remove stop', at.value)
  else if (key === 'duplicate')
    void doc.gesture('add stop', { ...self.value, like: s.value.id, at: fader.value ? (s.value.at ?? 0) : undefined })
  else void doc.gesture('set stop', { ...at.value, place: props.place + (key === 'left' ? -1 : 1) })
}
</script>

<template>
  <div class="head">
    <StopPicture :item="item" :control="control.id" :value="posing.placeOf(control, place)" />
    <div class="said">
      <div class="stop">
        <EditableName class="called" label="Name of the stop" :name="s.name" @rename="(name) => doc.gesture('set stop', { ...at, name })" />
        <ValueField
          v-if="fader"
          :label="`Place of ${s.name}`"
          :value="s.at ?? 0"
          :unit="unit"
          @preview="(x) => doc.preview('set stop', { ...at, at: x })"
          @commit="(x) => doc.gesture('set stop', { ...at, at: x })"
          @cancel="doc.cancelPreview"
        />
        <span class="space" />
        <MenuList trigger="click" size="small" :options="options" placement="bottom-end" @select="run">
          <button class="plain act" :aria-label="`Actions for ${s.name}`">⋯</button>
        </MenuList>
      </div>
      <div class="stop">
        <button class="plain act" :title="`Pose ${s.name}`" @click="posing.begin(at)">Pose</button>
        <button class="plain act" :title="`Show ${s.name}`" @click="go()">Show</button>
        <span class="space" />
        <ChoiceField
          v-if="fader && place < stops.length - 1"
          class="easing"
          size="tiny"
          :value="s.easing"
          :options="easings"
          :label="`Easing after ${s.name}`"
          @update:value="(easing: Easing) => doc.gesture('set stop', { ...at, easing })"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.head,
.stop {
  display: flex;
  align-items: center;
  gap: 8px;
}
.said {
  display: grid;
  gap: 2px;
  flex: 1;
  min-width: 0;
}
.stop {
  min-height: 24px;
}
.called {
  font: 600 13px var(--face-heading);
}
.space {
  flex: 1;
}
.easing {
  width: 92px;
}
</style>
<style scoped src="./act.css" />
