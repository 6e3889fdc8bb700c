<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import IconReset from '~icons/tabler/rotate'
import { useReadings } from '@/composables/readings'
import type { Control } from '@/core/types'
import { useDocument } from '@/stores/document'
import ControlWidget from '@/components/desk/ControlWidget.vue'
import PinToggle from '@/components/shared/PinToggle.vue'

/** A control that was handed off: its name, its widget, its value, whether it is pinned here, and the way back to how it was. */
const props = defineProps<{ control: Control }>()
const doc = useDocument()
const readings = useReadings()
const at = computed(() => readings.refOf(props.control))
const spec = computed(() => doc.spec(at.value.item, props.control.id))
const changed = computed(() => readings.changed(props.control))
const row = useTemplateRef('row')
/** Has it as it was handed off; what was pressed is gone then, so the value has the focus. */
function reset(): void {
  void readings.reset(props.control)
  row.value?.querySelector<HTMLElement>('button.value, input, [tabindex="0"]')?.focus()
}
</script>

<template>
  <div v-if="spec" ref="row" class="control" :data-control="control.name" :class="{ changed }">
    <span class="name">{{ control.name }}</span>
    <ControlWidget :item="at.item" :spec="spec" :driven="false" tall />
    <PinToggle v-if="readings.pinnable(control)" :refs="[at]" :name="control.name" always />
    <span v-else class="nopin" />
    <button
      v-if="changed"
      class="plain reset"
      :aria-label="`Reset ${control.name} to how it was handed off`"
      title="Reset to how it was handed off"
      @click="reset"
    >
      <IconReset aria-hidden="true" />
    </button>
    <span v-else />
    <p v-if="control.note" class="note">{{ control.note }}</p>
  </div>
</template>

<style scoped>
.control {
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr) 66px 24px 24px;
  gap: 2px 8px;
  align-items: center;
  min-height: 44px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
}
.changed .name {
  font-weight: 600;
}
.note {
  grid-column: 1 / -1;
  margin: 0;
  font-size: 12px;
  color: var(--ink2);
}
.reset {
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  border-radius: 4px;
  color: var(--ink2);
}
.reset:hover {
  background: var(--picked);
  color: var(--ink);
}
</style>
