<script setup lang="ts">
import { NButton, NInputNumber, NRadio, NRadioGroup } from 'naive-ui'
import { computed, reactive, watch } from 'vue'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Time that is put in at the playhead, or taken out: of one drawer, or of everything. */
const doc = useDocument()
const playback = usePlayback()
const workspace = useWorkspace()
const form = reactive<{ frames: number | null; what: 'insert' | 'take'; all: boolean }>({ frames: null, what: 'insert', all: true })
const drawer = computed(() => workspace.timing?.item)
watch(
  () => workspace.timing,
  (open) => open && Object.assign(form, { frames: playback.rate, what: 'insert', all: !open.item }),
)

async function apply(): Promise<void> {
  const frames = Math.round(form.frames ?? 0)
  if (frames < 1) return
  const done = await doc.gesture('insert time', {
    at: playback.frame,
    frames: form.what === 'insert' ? frames : -frames,
    item: form.all ? undefined : drawer.value,
  })
  if (done) workspace.timing = null
}
</script>

<template>
  <ModalCard
    :show="workspace.timing !== null"
    :title="`Time at frame ${playback.frame}`"
    :width="380"
    @close="workspace.timing = null"
    @enter="apply"
  >
    <NRadioGroup v-model:value="form.what" aria-label="What is done">
      <NRadio value="insert">Insert</NRadio>
      <NRadio value="take">Take out, with the pins in it</NRadio>
    </NRadioGroup>
    <p class="line">
      <NInputNumber
        v-model:value="form.frames"
        :show-button="false"
        size="small"
        :min="1"
        :precision="0"
        :input-props="{ 'aria-label': 'Frames' }"
      />
      frames
    </p>
    <NRadioGroup v-model:value="form.all" aria-label="Of what">
      <NRadio :value="true">Everything; the composition gets longer or shorter</NRadio>
      <NRadio v-if="drawer" :value="false">The controls of {{ doc.items.get(drawer)?.name }} alone</NRadio>
    </NRadioGroup>
    <template #footer>
      <div class="foot">
        <NButton @click="workspace.timing = null">Cancel</NButton>
        <NButton type="primary" @click="apply">{{ form.what === 'insert' ? 'Insert' : 'Take out' }}</NButton>
      </div>
    </template>
  </ModalCard>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  gap: 8px;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
