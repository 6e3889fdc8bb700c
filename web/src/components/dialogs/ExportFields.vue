<script setup lang="ts">
import { NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { useExportForm } from '@/composables/exportForm'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useShared } from '@/stores/shared'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import FormNumber from '@/components/shared/FormNumber.vue'

/** How a composition is exported: its size, its range, its background, and what moves smeared or not. */
const playback = usePlayback()
const selection = useSelection()
const shared = useShared()
const { form, format, ranges, sized } = useExportForm()
const whose = computed(() => [
  { label: 'All items', value: 'all' },
  { label: selection.ids.length === 1 ? 'the selected item' : `the ${selection.ids.length} selected items`, value: 'selected' },
])
const makers = [
  { label: 'In this browser', value: 'here' },
  { label: 'On the server, by its workers', value: 'server' },
]
const plays = [0, 1, 2, 3, 5, 10].map((value) => ({ label: value === 0 ? 'for ever' : value === 1 ? 'once' : `${value} times`, value }))
</script>

<template>
  <div class="grid">
    <template v-if="format?.drawn || (format?.flat && format.thinned)">
      <span>Size</span>
      <span class="pair"
        ><FormNumber :value="form.width" label="Width in pixels" :min="2" @update:value="(px) => sized('width', px)" />
        ×
        <FormNumber :value="form.height" label="Height in pixels" :min="2" @update:value="(px) => sized('height', px)" />
        px</span
      >
    </template>
    <template v-if="format?.table && selection.ids.length">
      <span>Of</span><ChoiceField v-model:value="form.of" :options="whose" label="Of which items" />
    </template>
    <template v-if="format?.one">
      <span>Frame</span>
      <FormNumber v-model:value="form.frame" label="Frame" :min="0" :max="playback.frames - 1" />
    </template>
    <template v-else><span>Range</span><ChoiceField v-model:value="form.range" :options="ranges" label="Range" /></template>
    <template v-if="!format?.one && form.range === 'some'">
      <span>Frames</span>
      <span class="pair"
        ><FormNumber v-model:value="form.from" label="First frame" :min="0" :max="playback.frames - 1" />
        to
        <FormNumber v-model:value="form.to" label="Last frame" :min="0" :max="playback.frames - 1"
      /></span>
    </template>
    <template v-if="format?.drawn && !format.one">
      <span>Rate</span>
      <span class="pair"><FormNumber v-model:value="form.rate" label="Pictures a second" :min="1" :max="240" /> fps</span>
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
        ><FormNumber v-model:value="form.tolerance" label="How far shapes may be off, in pixels" :min="0.01" :max="100" /> px</span
      >
    </template>
    <template v-if="format?.parted && shared.able">
      <span>Made</span><ChoiceField v-model:value="form.by" :options="makers" label="Who makes it" />
    </template>
    <template v-if="format?.drawn">
      <span>Motion blur</span><NSwitch v-model:value="form.blurs" size="small" aria-label="Motion blur" />
    </template>
    <template v-if="format?.drawn && form.blurs">
      <span>Shutter</span>
      <span class="pair"
        ><FormNumber v-model:value="form.angle" label="Shutter angle in degrees" :min="0" :max="720" />
        °
        <FormNumber v-model:value="form.samples" label="Samples of a frame" :min="1" :max="32" />
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
