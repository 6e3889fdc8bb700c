<script setup lang="ts">
import { NSelect } from 'naive-ui'
import { computed } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'

/** What the selected items are attached to. */
const props = defineProps<{ items: Id[] }>()
const document = useDocument()

const parent = computed(() => {
  const all = new Set(props.items.map((id) => document.items.get(id)?.parent ?? ''))
  return all.size === 1 ? [...all][0] : undefined
})
const options = computed(() => [
  { label: 'nothing', value: '' },
  ...document.order.filter((id) => !props.items.includes(id)).map((id) => ({ label: document.items.get(id)?.name ?? '', value: id })),
])
</script>

<template>
  <h3>Attachment</h3>
  <div class="row">
    <span class="name">attached to</span>
    <NSelect size="tiny" filterable :value="parent" :options="options" placeholder="mixed" aria-label="Attached to" @update:value="(id: string) => document.gesture('attach', { items, parent: id })" />
  </div>
</template>

<style scoped>
h3 { font-size: 12px; color: var(--ink2); padding: 6px 12px 2px; }
.row { display: grid; grid-template-columns: 86px 1fr; align-items: center; gap: 8px; padding: 0 12px 0 52px; min-height: 26px; margin-left: -8px; }
</style>
