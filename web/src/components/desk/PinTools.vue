<script setup lang="ts">
import { computed, ref } from 'vue'
import { usePinCommands } from '@/composables/pinCommands'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import MenuList from '@/components/shared/MenuList.vue'
import ValueField from '@/components/shared/ValueField.vue'
import EasingDrawing from './EasingDrawing.vue'
import SmoothBand from './SmoothBand.vue'

/**
 * What can be done with the pins that are picked: where they begin and end, their value, how they go on, and what else. Among curves,
 * their handles are there anyhow.
 */
defineProps<{ curves?: boolean }>()
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const playback = usePlayback()
const pins = usePinCommands()

const smoothing = ref(false)
const many = computed(() => pins.last.value > pins.first.value)
const what = computed(() => {
  const n = selection.pins.length
  return n === 1 ? 'pin' : `${n} pins` + (pins.rows.value > 1 ? ` of ${pins.rows.value} rows` : '')
})
/** Whether there is one of a point among them. */
const points = computed(() => selection.pins.some((p) => doc.spec(p.item, p.property)?.type.startsWith('point')))
const options = computed(() => [
  { key: 'reverse', label: 'Reverse', disabled: !many.value },
  { key: 'spread', label: 'Spread evenly', disabled: selection.pins.length < 3 },
  ...(points.value ? [{ key: 'bend', label: pins.bent.value ? 'Straight from pin to pin' : 'Curve the path in space' }] : []),
  ...(points.value ? [{ key: 'even', label: 'Even speed along the path', disabled: selection.pins.length < 3 }] : []),
  ...[1, 3, 5].map((n) => ({ key: `stagger ${n}`, label: `Stagger rows by ${n} f`, disabled: pins.rows.value < 2 })),
  { key: 'smooth', label: 'Smooth…', disabled: selection.pins.length < 3 },
  { key: 'copy', label: 'Copy (Ctrl C)' },
  { key: 'paste', label: 'Paste at the playhead (Ctrl V)', disabled: !pins.copied() },
])
function run(key: string): void {
  const [act, n] = key.split(' ')
  const acts: Record<string, () => unknown> = {
    smooth: () => (smoothing.value = true),
    reverse: pins.reverse,
    spread: () => pins.spread(),
    bend: pins.turnPath,
    even: pins.evenSpeed,
    stagger: () => pins.stagger(Number(n)),
    copy: pins.copy,
    paste: pins.paste,
  }
  void acts[act ?? '']?.()
}
</script>

<template>
  <SmoothBand v-if="smoothing && selection.pins.length" @close="smoothing = false" />
  <div v-else-if="selection.pins.length" class="tools" role="group" aria-label="Picked pins">
    <span class="quiet">{{ what }}</span>
    <label class="quiet"
      >{{ many ? 'from' : 'at' }}
      <ValueField
        :value="pins.first.value"
        :rate="playback.rate"
        :label="many ? 'First frame' : 'Frame'"
        @commit="(f) => pins.move(f - pins.first.value)"
    /></label>
    <label v-if="many" class="quiet"
      >to
      <ValueField
        :value="pins.last.value"
        :rate="playback.rate"
        label="Last frame"
        @commit="(f) => pins.stretch(pins.first.value, pins.last.value, f)"
    /></label>
    <label v-if="pins.value.value !== undefined" class="quiet"
      >value
      <ValueField
        :value="Number.isNaN(pins.value.value) ? 0 : pins.value.value"
        :mixed="Number.isNaN(pins.value.value)"
        label="Value of the pins"
        @commit="pins.set"
    /></label>
    <span class="palette" role="group" aria-label="Easing">
      <button
        v-for="e in doc.catalogue.easings"
        :key="e.easing"
        class="plain ease"
        :class="{ on: pins.easing.value === e.easing }"
        :aria-pressed="pins.easing.value === e.easing"
        :aria-label="e.name"
        :title="e.name"
        @click="pins.ease(e.easing)"
      >
        <EasingDrawing :drawn="e.drawn" />
      </button>
    </span>
    <button
      v-if="!curves"
      class="plain act"
      :class="{ on: workspace.spanOpen }"
      :aria-pressed="workspace.spanOpen"
      title="Opens the way to the next pin under the track"
      @click="workspace.spanOpen = !workspace.spanOpen"
    >
      Shape
    </button>
    <MenuList trigger="click" size="small" :options="options" placement="bottom-end" @select="run">
      <button class="plain act" aria-label="More to do with the pins">⋯</button>
    </MenuList>
    <button class="plain act" @click="pins.drop">Delete</button>
  </div>
  <span v-else class="quiet hint"
    >Double-click a {{ curves ? 'curve' : 'track' }} to add a pin; drag over {{ curves ? 'pins' : 'tracks' }} to pick many</span
  >
</template>

<style scoped>
.tools,
.tools label,
.palette {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 12px;
  white-space: nowrap;
}
.palette {
  gap: 0;
}
.ease {
  padding: 3px;
  width: 26px;
  height: 24px;
  border-radius: 4px;
  border: 1px solid transparent;
  color: var(--ink2);
}
.act {
  border: 1px solid transparent;
  padding: 1px 7px;
  min-height: 24px;
  border-radius: 4px;
}
.ease:hover,
.act:hover {
  background: var(--picked);
}
.act.on,
.ease.on {
  border-color: var(--brass);
  color: var(--brassText);
  background: var(--card);
}
.hint {
  font-size: 12px;
}
</style>
