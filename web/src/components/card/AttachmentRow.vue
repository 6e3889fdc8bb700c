<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** What the selected items are attached to. */
const props = defineProps<{ items: Id[] }>()
const doc = useDocument()

const parent = computed(() => {
  const all = new Set(props.items.map((id) => doc.items.get(id)?.parent ?? ''))
  return all.size === 1 ? [...all][0] : undefined
})
// The list is made when it is opened: it names every item there is.
const open = ref(false)
const options = computed(() => [
  { label: 'none', value: '' },
  ...(open.value ? doc.order : [parent.value ?? ''])
    .filter((id) => id && !props.items.includes(id))
    .map((id) => ({ label: doc.items.get(id)?.name ?? '', value: id })),
])
const attached = computed(() => props.items.some((id) => doc.items.get(id)?.parent))
const parts = [
  { key: 'position', no: 'noPosition' },
  { key: 'rotation', no: 'noRotation' },
  { key: 'scale', no: 'noScale' },
] as const
const inherits = (no: (typeof parts)[number]['no']): boolean => props.items.every((id) => !doc.items.get(id)?.attachment?.[no])
</script>

<template>
  <div class="row">
    <span class="name">parent</span>
    <ChoiceField
      size="tiny"
      filterable
      :value="parent"
      :options="options"
      placeholder="mixed"
      label="Parent"
      @update:show="(shown: boolean) => (open = shown)"
      @update:value="(id: string) => doc.gesture('attach', { items, parent: id })"
    />
  </div>
  <div v-if="attached" class="row">
    <span class="name">inherits</span>
    <span class="parts">
      <button
        v-for="p in parts"
        :key="p.key"
        class="plain part"
        :aria-pressed="inherits(p.no)"
        @click="doc.gesture('inherit', { items, [p.key]: !inherits(p.no) })"
      >
        {{ p.key }}
      </button>
    </span>
  </div>
</template>

<style scoped>
.parts {
  display: flex;
  gap: 4px;
}
.part {
  border: 1px solid var(--line);
  border-radius: 9px;
  padding: 0 8px;
  font-size: 11px;
  line-height: 17px;
  color: var(--ink2);
  text-decoration: line-through;
}
.part[aria-pressed='true'] {
  border-color: var(--brass);
  color: var(--brassText);
  text-decoration: none;
}
.row {
  display: grid;
  grid-template-columns: 86px 1fr;
  align-items: center;
  gap: 8px;
  padding: 0 12px 0 52px;
  min-height: 26px;
  margin-left: -8px;
}
</style>
