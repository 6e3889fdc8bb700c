<script setup lang="ts">
import { NInputNumber, NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { useExportForm } from '@/composables/exportForm'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** How a composition is exported: its size, its range, its background, and what moves smeared or not. */
const playback = usePlayback()
const selection = useSelection()
const { form, format, ranges, sized } = useExportForm()
const whose = computed(() => [
  { label: 'all items', value: 'all' },
  { label: selection.ids.length === 1 ? 'the selected item' : `the ${selection.ids.length} selected items`, value: 'selected' },
])
const plays = [0, 1, 2, 3, 5, 10].map((value) => ({ label: value === 0 ? 'for ever' : value === 1 ? 'once' : `${value} times`, value }))
</script>

<template>
  <div class="grid">
    <template v-if="!format?.table">
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
    </template>
    <template v-if="format?.table && selection.ids.length">
      <span>Of</span><ChoiceField v-model:value="form.of" :options="whose" label="Of which items" />
    </template>
    <template v-if="format?.one">
      <span>Frame</span>
      <NInputNumber
        v-model:value="form.frame"
        size="small"
        :min="0"
        :max="playback.frames - 1"
        :show-button="false"
        :input-props="{ 'aria-label': 'Frame' }"
      />
    </template>
    <template v-else><span>Range</span><ChoiceField v-model:value="form.range" :options="ranges" label="Range" /></template>
    <template v-if="!format?.one && form.range === 'some'">
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
    <template v-if="format?.drawn && !format.one">
      <span>Rate</span>
      <span class="pair"
        ><NInputNumber
          v-model:value="form.rate"
          size="small"
          :min="1"
          :max="240"
          :show-button="false"
          :input-props="{ 'aria-label': 'Pictures a second' }"
        />
        fps</span
      >
    </template>
    <template v-if="format?.loops">
      <span>Plays</span><ChoiceField v-model:value="form.loop" :options="plays" label="How often it plays" />
    </template>
    <template v-if="format?.clear">
      <span>Transparent</span><NSwitch v-model:value="form.clear" size="small" aria-label="Transparent: without the background" />
    </template>
    <template v-if="format?.thinned">
      <span>Tolerance</span>
      <span class="pair"
        ><NInputNumber
          v-model:value="form.tolerance"
          size="small"
          :min="0.01"
          :max="100"
          :show-button="false"
          :input-props="{ 'aria-label': 'How far shapes may be off, in pixels' }"
        />
        px</span
      >
    </template>
    <template v-if="format?.drawn">
      <span>Motion blur</span><NSwitch v-model:value="form.blurs" size="small" aria-label="Motion blur" />
    </template>
    <template v-if="format?.drawn && form.blurs">
      <span>Shutter</span>
      <span class="pair"
        ><NInputNumber
          v-model:value="form.angle"
          size="small"
          :min="0"
          :max="720"
          :show-button="false"
          :input-props="{ 'aria-label': 'Shutter angle in degrees' }"
        />
        °
        <NInputNumber
          v-model:value="form.samples"
          size="small"
          :min="1"
          :max="32"
          :show-button="false"
          :input-props="{ 'aria-label': 'Samples of a frame' }"
        />
        samples</span
      >
    </template>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 10px;
  align-items: center;
  align-content: start;
}
.grid :deep(.n-switch) {
  justify-self: start;
}
.pair {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
