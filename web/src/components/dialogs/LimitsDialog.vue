<script setup lang="ts">
import { NButton, NInputNumber } from 'naive-ui'
import { computed, reactive, watch } from 'vue'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'

/** The limits that a property is held within, whatever drives it. */
const doc = useDocument()
const workspace = useWorkspace()
const form = reactive<{ min: number | null; max: number | null }>({ min: null, max: null })

const refs = computed(() => workspace.limiting ?? [])
const title = computed(() =>
  refs.value[0] ? `Limits of ${doc.nameOf(refs.value[0])}${refs.value.length > 1 ? ` (+${refs.value.length - 1})` : ''}` : '',
)
watch(refs, ([first]) => {
  if (!first) return
  const state = doc.state(first.item, first.property)
  const { min, max } = first.component ? (state.limits?.[first.component] ?? {}) : state
  Object.assign(form, { min: min ?? null, max: max ?? null })
})
const crossed = computed(() => form.min !== null && form.max !== null && form.min > form.max)

async function apply(): Promise<void> {
  const ops = refs.value.map(({ item, property, component }) => ({
    op: 'limits.set' as const,
    item,
    property,
    component,
    min: form.min,
    max: form.max,
  }))
  if (!crossed.value && (await doc.operations(...ops))) workspace.limiting = null
}
</script>

<template>
  <ModalCard :show="workspace.limiting !== null" :title="title" :width="380" @close="workspace.limiting = null">
    <p class="quiet">The value stays within these, whatever drives it. Leave one empty for none.</p>
    <form class="grid" @submit.prevent="apply">
      <span>At least</span
      ><NInputNumber
        v-model:value="form.min"
        size="small"
        placeholder="None"
        :show-button="false"
        :input-props="{ 'aria-label': 'At least' }"
      />
      <span>At most</span
      ><NInputNumber
        v-model:value="form.max"
        size="small"
        placeholder="None"
        :show-button="false"
        :input-props="{ 'aria-label': 'At most' }"
      />
      <p v-if="crossed" class="wrong" role="alert">The upper limit must not be below the lower one.</p>
      <span class="end">
        <NButton size="small" @click="workspace.limiting = null">Cancel</NButton>
        <NButton size="small" type="primary" attr-type="submit" :disabled="crossed">Apply</NButton>
      </span>
    </form>
  </ModalCard>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 8px;
  align-items: center;
}
.wrong {
  grid-column: 1 / 3;
  margin: 0;
  color: var(--oxblood);
}
.end {
  grid-column: 1 / 3;
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 6px;
}
</style>
