<script setup lang="ts">
import { NButton, NProgress } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { roughly } from '@/composables/format'
import { useExportForm } from '@/composables/exportForm'
import type { Lack } from '@/core/types'
import { moments } from '@/export/asked'
import { useDocument } from '@/stores/document'
import { useExporting } from '@/stores/exporting'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useShared } from '@/stores/shared'
import { useWorkspace } from '@/stores/workspace'
import ExportFields from './ExportFields.vue'
import ExportLacks from './ExportLacks.vue'
import ExportPreview from './ExportPreview.vue'
import SharedExports from './SharedExports.vue'
import ModalCard from '@/components/shared/ModalCard.vue'

/** What the composition goes out as: the format, its size and range, and what it can't hold, before it is written. */
const doc = useDocument()
const exporting = useExporting()
const playback = usePlayback()
const selection = useSelection()
const shared = useShared()
const workspace = useWorkspace()

const { form, format, count, wrong, sized, asked } = useExportForm()
const groups = computed(() => [...new Set(doc.catalogue.formats.map((f) => f.group))])

watch(
  () => workspace.exporting,
  (open) => {
    const c = doc.composition
    if (!open || !c) return
    void shared.look()
    Object.assign(form, {
      range: playback.range ? 'range' : 'all',
      from: 0,
      to: c.frames - 1,
      frame: Math.round(playback.frame),
      rate: c.rate,
    })
    sized('width', c.width)
  },
)
watch(
  () => form.format,
  () => sized('width', form.width),
)

const lacks = ref<Lack[]>([])
/** The formulas that give nothing at some frame, whatever it goes out as. */
const failing = ref<Lack[]>([])
watch([() => workspace.exporting, () => form.format], async ([open, key]) => {
  if (open) lacks.value = await exporting.lacks(key)
})
watch(
  () => workspace.exporting,
  async (open) => (failing.value = open ? await exporting.failing() : []),
)
function show(item: string): void {
  workspace.exporting = false
  selection.pick(item)
}

/** Whether the server makes it. */
const elsewhere = computed(() => form.by === 'server' && shared.able && !!format.value?.parted)
function begin(): void {
  if (!asked.value) return
  if (elsewhere.value) void shared.start(asked.value)
  else if (!exporting.job) void exporting.start(asked.value)
}

const length = computed(() => {
  if (!asked.value || format.value?.one) return ''
  const n = moments(asked.value, playback.rate).length
  const what = format.value?.drawn ? 'picture' : 'frame'
  return `${n} ${n === 1 ? what : what + 's'}, ${(count.value / playback.rate).toFixed(1)} s`
})
</script>

<template>
  <ModalCard
    :show="workspace.exporting"
    :title="`Export ${doc.composition?.name}`"
    :width="900"
    @close="workspace.exporting = false"
    @enter="begin"
  >
    <div class="columns">
      <div class="formats" role="radiogroup" aria-label="Format">
        <template v-for="g in groups" :key="g">
          <h3>{{ g }}</h3>
          <label v-for="f in doc.catalogue.formats.filter((x) => x.group === g)" :key="f.key" :class="{ on: form.format === f.key }"
            ><input v-model="form.format" type="radio" name="format" :value="f.key" />{{ f.name }}</label
          >
        </template>
      </div>
      <div class="what">
        <div class="asked">
          <div>
            <ExportPreview :width="304" :height="171" />
            <p class="quiet about">{{ format?.about }}</p>
          </div>
          <ExportFields />
        </div>
        <ExportLacks
          :title="`${lacks.length === 1 ? 'One thing' : `${lacks.length} things`} this format can’t hold`"
          label="What this format can’t hold"
          :lacks="lacks"
          @show="show"
        />
        <ExportLacks title="Formulas without a result at some frame: the value below them is exported" :lacks="failing" @show="show" />
        <SharedExports />
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      </div>
    </div>
    <template #footer>
      <div class="end">
        <div v-if="exporting.job" class="job" role="status">
          <span
            >{{ exporting.job.format.name }}, {{ exporting.job.width }} × {{ exporting.job.height }} · frame {{ exporting.job.done }} of
            {{ exporting.job.of }}{{ exporting.left === null ? '' : ` · about ${roughly(exporting.left)} left` }}</span
          >
          <NProgress type="line" :percentage="exporting.percent" :show-indicator="false" :height="6" aria-label="Export progress" />
        </div>
        <span v-else class="quiet space">{{ length }}</span>
        <NButton v-if="exporting.job" size="small" @click="exporting.cancel">Cancel export</NButton>
        <NButton size="small" @click="workspace.exporting = false">Close</NButton>
        <NButton v-if="!exporting.job || elsewhere" type="primary" size="small" :disabled="!!wrong" @click="begin">Export</NButton>
      </div>
    </template>
  </ModalCard>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 20px;
  min-height: 330px;
}
.formats {
  border-right: 1px solid var(--line);
  padding-right: 12px;
  display: flex;
  flex-direction: column;
}
h3 {
  font: inherit;
  font-size: 11px;
  color: var(--ink2);
  margin: 0 0 4px;
}
.formats h3:not(:first-child) {
  margin-top: 12px;
}
.formats label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 28px;
  padding: 0 8px;
  border-radius: 4px;
}
.formats label.on {
  background: var(--picked);
}
.formats input {
  accent-color: var(--brass);
}
.asked {
  display: grid;
  grid-template-columns: 304px 1fr;
  gap: 20px;
}
@media (max-width: 800px) {
  .columns {
    grid-template-columns: 150px minmax(0, 1fr);
  }
  .asked {
    grid-template-columns: minmax(0, 1fr);
  }
}
.about {
  min-height: 2.8em; /* for two lines, so that nothing jumps */
  margin: 8px 0 0;
}
.wrong {
  color: var(--oxblood);
}
.end {
  display: flex;
  gap: 10px;
  align-items: center;
}
.job {
  flex: 1;
  font-size: 12px;
}
.space {
  flex: 1;
}
</style>
