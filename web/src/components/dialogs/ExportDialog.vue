<script setup lang="ts">
import { NButton, NInputNumber, NProgress, NSwitch } from 'naive-ui'
import { computed, reactive, ref, watch } from 'vue'
import type { Methods } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useExporting } from '@/stores/exporting'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import ModalCard from '@/components/shared/ModalCard.vue'

/** What the composition goes out as: the format, its size and range, and what it can't hold, before it is written. */
const doc = useDocument()
const exporting = useExporting()
const playback = usePlayback()
const selection = useSelection()
const workspace = useWorkspace()

const form = reactive({ format: 'mp4', width: 0, height: 0, range: 'all', from: 0, to: 0, clear: false })
const format = computed(() => doc.catalogue.formats.find((f) => f.key === form.format))
const groups = computed(() => [...new Set(doc.catalogue.formats.map((f) => f.group))])
const ranges = computed(() => [
  { label: `All ${playback.frames} frames`, value: 'all' },
  ...(playback.range ? [{ label: `The range, ${playback.range[0]} to ${playback.range[1]}`, value: 'range' }] : []),
  { label: 'From … to …', value: 'some' },
])

watch(
  () => workspace.exporting,
  (open) => {
    const c = doc.composition
    if (!open || !c) return
    const last = c.frames - 1
    Object.assign(form, { width: c.width, height: c.height, range: playback.range ? 'range' : 'all', from: 0, to: last })
  },
)
/** One side of the picture says what the other is. */
function sized(side: 'width' | 'height', px: number | null): void {
  const c = doc.composition
  if (!c || !px) return
  const [width, height] = side === 'width' ? [px, (px * c.height) / c.width] : [(px * c.width) / c.height, px]
  const whole = (x: number): number => Math.max(2, format.value?.even ? 2 * Math.round(x / 2) : Math.round(x))
  Object.assign(form, { width: whole(width), height: whole(height) })
}
watch(
  () => form.format,
  () => sized('width', form.width),
)

const lacks = ref<NonNullable<Methods['lacks']['answer']>>([])
watch([() => workspace.exporting, () => form.format], async ([open, key]) => {
  if (open) lacks.value = await exporting.lacks(key)
})
function show(item: string): void {
  workspace.exporting = false
  selection.pick(item)
}

const stretch = computed<[number, number]>(() =>
  form.range === 'all' ? [0, playback.frames - 1] : form.range === 'range' && playback.range ? playback.range : [form.from, form.to],
)
const count = computed(() => stretch.value[1] - stretch.value[0] + 1)
const wrong = computed(() =>
  count.value < 1 ? 'The last frame comes before the first.' : !form.width || !form.height ? 'Say how large the pictures are to be.' : '',
)

function begin(): void {
  const [from, to] = stretch.value
  if (!format.value || wrong.value || exporting.job) return
  const { width, height } = form
  void exporting.start({
    format: format.value,
    composition: doc.compositionId,
    width,
    height,
    from,
    to,
    clear: form.clear && !!format.value.clear,
  })
}
</script>

<template>
  <ModalCard
    :show="workspace.exporting"
    :title="`Export ${doc.composition?.name}`"
    :width="640"
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
        <p class="quiet about">{{ format?.about }}</p>
        <div class="grid">
          <span>Size</span>
          <span class="pair"
            ><NInputNumber
              :value="form.width"
              size="small"
              :min="2"
              :show-button="false"
              :input-props="{ 'aria-label': 'Width in pixels' }"
              @update:value="(px) => sized('width', px)"
            />
            ×
            <NInputNumber
              :value="form.height"
              size="small"
              :min="2"
              :show-button="false"
              :input-props="{ 'aria-label': 'Height in pixels' }"
              @update:value="(px) => sized('height', px)"
            />
            px</span
          >
          <span>Range</span><ChoiceField v-model:value="form.range" :options="ranges" label="Range" />
          <template v-if="form.range === 'some'">
            <span>Frames</span>
            <span class="pair"
              ><NInputNumber
                v-model:value="form.from"
                size="small"
                :min="0"
                :max="playback.frames - 1"
                :show-button="false"
                :input-props="{ 'aria-label': 'First frame' }" />
              to
              <NInputNumber
                v-model:value="form.to"
                size="small"
                :min="0"
                :max="playback.frames - 1"
                :show-button="false"
                :input-props="{ 'aria-label': 'Last frame' }"
            /></span>
          </template>
          <template v-if="format?.clear">
            <span>Transparent</span><NSwitch v-model:value="form.clear" size="small" aria-label="Transparent: without the background" />
          </template>
        </div>
        <section v-if="lacks.length" class="lacks" aria-label="What this format can’t hold">
          <h3>{{ lacks.length === 1 ? 'One thing' : `${lacks.length} things` }} this format can’t hold</h3>
          <p v-for="l in lacks" :key="l.item">
            <b>{{ doc.items.get(l.item)?.name }}</b><span class="quiet">{{ l.what }}</span
            ><button class="plain action" @click="show(l.item)">Show</button>
          </p>
        </section>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      </div>
    </div>
    <template #footer>
      <div class="end">
        <div v-if="exporting.job" class="job" role="status">
          <span
            >{{ exporting.job.format.name }}, {{ exporting.job.width }} × {{ exporting.job.height }} · frame {{ exporting.job.done }} of
            {{ exporting.of }}{{ exporting.left === null ? '' : ` · about ${Math.ceil(exporting.left)} s left` }}</span
          >
          <NProgress
            type="line"
            :percentage="(100 * exporting.job.done) / exporting.of"
            :show-indicator="false"
            :height="6"
            aria-label="Export progress"
          />
        </div>
        <span v-else class="quiet space">{{ count > 0 ? `${count} frames, ${(count / playback.rate).toFixed(1)} s` : '' }}</span>
        <NButton v-if="exporting.job" size="small" @click="exporting.cancel">Cancel export</NButton>
        <NButton size="small" @click="workspace.exporting = false">Close</NButton>
        <NButton v-if="!exporting.job" type="primary" size="small" :disabled="!!wrong" @click="begin">Export</NButton>
      </div>
    </template>
  </ModalCard>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 20px;
  min-height: 250px;
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
.about {
  margin: 0 0 12px;
}
.grid {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 10px;
  align-items: center;
}
.pair {
  display: flex;
  gap: 8px;
  align-items: center;
}
.lacks {
  margin-top: 16px;
  border: 1px solid var(--brass);
  border-radius: 6px;
  padding: 8px 12px;
}
.lacks h3 {
  color: var(--ink);
}
.lacks p {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 8px;
  margin: 4px 0 0;
}
.action {
  color: var(--brassText);
  padding: 0 4px;
}
.wrong {
  color: var(--madder);
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
