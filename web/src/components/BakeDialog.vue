<script setup lang="ts">
import { NButton, NInputNumber, NModal } from 'naive-ui'
import { computed, reactive, watch } from 'vue'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'

/** Turns what drives properties into pins: over which frames, and how exactly. */
const document = useDocument()
const workspace = useWorkspace()
const form = reactive({ from: 0, to: 0, tolerance: 0.1 })

watch(() => workspace.baking, (refs) => {
  if (refs) Object.assign(form, { from: 0, to: (document.composition?.frames ?? 1) - 1 })
})
const title = computed(() => {
  const refs = workspace.baking ?? []
  return refs[0] ? `Bake ${document.nameOf(refs[0])}${refs.length > 1 ? ` and ${refs.length - 1} more` : ''}` : 'Bake'
})

async function bake(): Promise<void> {
  const targets = workspace.baking
  workspace.baking = null
  await document.gesture('bake', { targets, ...form })
}
</script>

<template>
  <NModal :show="workspace.baking !== null" preset="card" size="small" style="width: 400px" :title="title" @update:show="workspace.baking = null">
    <p class="quiet">What drives it becomes pins. The links are switched off and kept.</p>
    <div class="grid">
      <span>First frame</span><NInputNumber v-model:value="form.from" size="small" aria-label="First frame to bake" />
      <span>Last frame</span><NInputNumber v-model:value="form.to" size="small" aria-label="Last frame to bake" />
      <span>Tolerance</span><NInputNumber v-model:value="form.tolerance" size="small" :min="0" :step="0.1" aria-label="Tolerance: how far a value may lie off" />
    </div>
    <template #footer><NButton type="primary" size="small" @click="bake">Bake</NButton></template>
  </NModal>
</template>

<style scoped>
.grid { display: grid; grid-template-columns: 110px 1fr; gap: 6px; align-items: center; }
</style>
