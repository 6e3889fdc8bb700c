<script setup lang="ts">
import { NButton, NCheckbox, NInputNumber } from 'naive-ui'
import { computed, reactive, ref, watch } from 'vue'
import type { Gestures } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Lets what is selected come in as a zone passes over it. It is seen in the viewport, and kept when it is made. */
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()

const fields = [
  { key: 'scale', label: 'Scale from', unit: '%', begins: 0 },
  { key: 'rotation', label: 'Rotation from', unit: '°', begins: -90 },
  { key: 'rise', label: 'Rise from', unit: 'px below', begins: 120 },
  { key: 'opacity', label: 'Opacity from', unit: '%', begins: 0 },
] as const
const form = reactive({
  on: { scale: true, rotation: false, rise: true, opacity: false } as Record<string, boolean>,
  scale: 0 as number | null,
  rotation: -90 as number | null,
  rise: 120 as number | null,
  opacity: 0 as number | null,
  falloff: null as number | null,
  curve: 3,
})
const curves = computed(() =>
  (doc.catalogue.kinds.find((k) => k.kind === 'zone')?.specs.find((p) => p.key === 'zoneCurve')?.options ?? []).map((label, value) => ({
    label,
    value,
  })),
)
const items = ref<string[]>([])
const asked = computed<Gestures['sweep in']>(() => ({
  items: items.value,
  ...Object.fromEntries(fields.filter((f) => form.on[f.key]).map((f) => [f.key, form[f.key] ?? f.begins])),
  falloff: form.falloff ?? 0,
  curve: form.curve,
}))
const some = computed(() => fields.some((f) => form.on[f.key]))

watch(
  () => workspace.sweeping,
  (open) => {
    if (open) items.value = [...selection.ids]
  },
)
watch([() => workspace.sweeping, asked], () => {
  if (workspace.sweeping && some.value && items.value.length) void doc.preview('sweep in', asked.value)
})

async function make(): Promise<void> {
  const done = await doc.gesture('sweep in', asked.value)
  if (!done) return
  workspace.sweeping = false
  if (done.made) selection.pickAll(done.made)
}
function close(): void {
  workspace.sweeping = false
  void doc.cancelPreview()
}
</script>

<template>
  <ModalCard :show="workspace.sweeping" title="Sweep in" :width="400" @close="close">
    <p class="quiet">
      A zone passes over {{ items.length === 1 ? 'the item' : `the ${items.length} items` }}: where it does not reach yet, they start from
      here.
    </p>
    <!-- Check boxes are toggled by Space alone, not by the Enter that opened the dialog. -->
    <form class="grid" @submit.prevent="make" @keyup.enter.capture.stop>
      <template v-for="f in fields" :key="f.key">
        <NCheckbox v-model:checked="form.on[f.key]">{{ f.label }}</NCheckbox>
        <NInputNumber
          v-model:value="form[f.key]"
          size="small"
          :disabled="!form.on[f.key]"
          :placeholder="String(f.begins)"
          :show-button="false"
          :input-props="{ 'aria-label': f.label }"
          ><template #suffix>{{ f.unit }}</template></NInputNumber
        >
      </template>
      <span>Falloff</span>
      <NInputNumber
        v-model:value="form.falloff"
        size="small"
        :min="0"
        placeholder="A third of the row"
        :show-button="false"
        :input-props="{ 'aria-label': 'Falloff' }"
        ><template #suffix>px</template></NInputNumber
      >
      <span>Curve</span><ChoiceField v-model:value="form.curve" size="small" :options="curves" label="Curve" />
      <span class="end">
        <NButton size="small" @click="close">Cancel</NButton>
        <NButton size="small" type="primary" attr-type="submit" :disabled="!some || !items.length">Make it</NButton>
      </span>
    </form>
  </ModalCard>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 6px;
  align-items: center;
}
.end {
  grid-column: 1 / -1;
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
