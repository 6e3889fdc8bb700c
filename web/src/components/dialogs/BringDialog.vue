<script setup lang="ts">
import { NButton, NInputNumber, NProgress, NRadio, NRadioGroup } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useBringing } from '@/composables/bringing'
import { useDocument } from '@/stores/document'
import ModalCard from '@/components/shared/ModalCard.vue'

/** How pictures come in: each by itself, as the frames of a flipbook, or as a sheet of frames; and how far they are. */
const { question, progress, asItems, asBook, cutUp, cancel } = useBringing()
const doc = useDocument()
const how = ref<'items' | 'book' | 'sheet'>('book')
const columns = ref(3)
const rows = ref(2)

const many = computed(() => (question.value?.files.length ?? 0) > 1)
watch(question, (q) => (how.value = q && q.files.length === 1 && !/gif$/.test(q.files[0]?.type ?? '') ? 'sheet' : 'book'))
const title = computed(() => {
  const q = question.value
  if (q?.cut) return `Cut ${doc.items.get(q.cut)?.name ?? ''} into frames`
  return q ? 'Import ' + (q.files.length === 1 ? (q.files[0]?.name ?? '') : `${q.files.length} pictures`) : ''
})

function go(): void {
  const q = question.value
  question.value = null
  if (!q) return
  if (q.cut) void cutUp(q.cut, columns.value, rows.value)
  else if (how.value === 'items') void asItems(q.files, q.place)
  else
    void asBook(q.files, how.value === 'sheet' ? { columns: columns.value, rows: rows.value } : { columns: 1, rows: 1 }, q.place, q.target)
}
</script>

<template>
  <ModalCard :show="question !== null" :title="title" :width="420" @close="question = null" @enter="go">
    <NRadioGroup v-if="!question?.cut" v-model:value="how" aria-label="How to import the pictures">
      <p v-if="!question?.target">
        <NRadio value="items">{{ many ? 'One item per picture' : 'One item' }}</NRadio>
      </p>
      <p>
        <NRadio value="book">{{ many ? 'One flipbook, frames in name order' : question?.target ? 'As is' : 'One flipbook' }}</NRadio>
      </p>
      <p>
        <NRadio value="sheet">{{ many ? 'Sprite sheets (several frames per picture)' : 'Sprite sheet (several frames)' }}</NRadio>
      </p>
    </NRadioGroup>
    <p v-if="how === 'sheet' || question?.cut" class="cut">
      <NInputNumber
        v-model:value="columns"
        :show-button="false"
        size="small"
        :min="1"
        :max="64"
        :input-props="{ 'aria-label': 'Columns' }"
      />
      columns,
      <NInputNumber v-model:value="rows" :show-button="false" size="small" :min="1" :max="64" :input-props="{ 'aria-label': 'Rows' }" />
      rows
    </p>
    <template #footer>
      <div class="foot">
        <NButton @click="question = null">Cancel</NButton
        ><NButton type="primary" @click="go">{{ question?.cut ? 'Cut' : 'Import' }}</NButton>
      </div>
    </template>
  </ModalCard>
  <div v-if="progress" class="progress" role="status">
    <span>Importing {{ progress.name }} ({{ progress.done + 1 }} of {{ progress.of }})</span>
    <NProgress type="line" :percentage="Math.round((100 * progress.done) / progress.of)" :show-indicator="false" />
    <NButton size="small" @click="cancel">Cancel</NButton>
  </div>
</template>

<style scoped>
.cut {
  display: flex;
  align-items: center;
  gap: 8px;
}
.cut :deep(.n-input-number) {
  width: 90px;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
.progress {
  position: fixed;
  left: 50%;
  bottom: 24px;
  transform: translateX(-50%);
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 12px;
  align-items: center;
  width: 420px;
  padding: 10px 14px;
  background: var(--card);
  border: 1px solid var(--brass);
  border-radius: var(--radius);
  z-index: 60;
}
.progress > span {
  grid-column: 1 / 3;
}
</style>
