<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import ModalCard from '@/components/shared/ModalCard.vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'

/** Before a rig is pasted elsewhere: which items take the places of those that it looks at, and that are not here. */
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const slots = ref<Record<Id, Id>>({})
const asks = computed(() => workspace.pasting?.asks ?? [])
const items = computed(() => [{ label: 'Leave out', value: '' }, ...[...doc.items.values()].map((i) => ({ label: i.name, value: i.id }))])
watch(asks, (all) => (slots.value = Object.fromEntries(all.map((s) => [s.item, '']))))

const reads = (names: string[]): string => (names.length ? ` (${names.join(', ')})` : '')

async function paste(): Promise<void> {
  const { pasting } = workspace
  workspace.pasting = null
  if (!pasting) return
  const done = await doc.gesture('paste', { clip: pasting.clip, slots: slots.value })
  if (done?.made?.length) selection.pickAll(done.made.filter((id) => !done.made?.includes(doc.items.get(id)?.parent ?? '')))
}
</script>

<template>
  <ModalCard :show="workspace.pasting !== null" title="Paste" :width="460" @close="workspace.pasting = null">
    <p class="quiet">What is pasted uses items that this composition doesn’t have. Choose what takes their places.</p>
    <form class="grid" @submit.prevent="paste">
      <template v-for="s in asks" :key="s.item">
        <span>{{ s.name }}{{ reads((s.reads ?? []).map((r) => r.name)) }}</span>
        <ChoiceField v-model:value="slots[s.item]" size="small" filterable :options="items" :label="`What takes the place of ${s.name}`" />
      </template>
      <span class="end">
        <NButton size="small" @click="workspace.pasting = null">Cancel</NButton>
        <NButton size="small" type="primary" attr-type="submit">Paste</NButton>
      </span>
    </form>
  </ModalCard>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
.end {
  grid-column: 1 / -1;
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 8px;
}
</style>
