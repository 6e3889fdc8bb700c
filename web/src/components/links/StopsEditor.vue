<script setup lang="ts">
import { computed } from 'vue'
import ColourField from '@/components/shared/ColourField.vue'
import ValueField from '@/components/shared/ValueField.vue'
import { short } from '@/composables/format'
import { easings } from '@/composables/links'
import { message } from '@/composables/notify'
import type { Beyond, Easing, MapStop } from '@/core/types'
import { useDocument } from '@/stores/document'
import StopsPlot from './StopsPlot.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** Stops of a map, which are dragged, typed or marked, and its response. */
const props = defineProps<{
  stops: MapStop[]
  beyond: Beyond
  type: string // of what the map gives: number, point, colour, text
  jumps?: boolean
  input?: number // at this frame
  reach?: [from: number, to: number]
  room?: [from: number, to: number]
  response: (from: number, to: number, steps: number) => Promise<number[]>
  unmarked?: boolean // of a row, whose members differ: there is no one value that could be marked
  bounded?: boolean // nothing lies outside of its stops
}>()
type What = { stops?: MapStop[]; beyond?: Beyond }
const emit = defineEmits<{ preview: [what: What]; change: [what: What]; mark: [which: string] }>()
const doc = useDocument()

const colour = computed(() => props.type === 'colour')

const ends = [
  { label: 'Hold', value: '' },
  { label: 'Extend', value: 'go on' },
  { label: 'Repeat', value: 'repeat' },
  { label: 'Mirror', value: 'mirror' },
]

const altered = (i: number, what: Partial<MapStop>): MapStop[] => props.stops.map((s, k) => (k === i ? { ...s, ...what } : s))
const set = (i: number, what: Partial<MapStop>): void => emit('change', { stops: altered(i, what).sort((a, b) => a.in - b.in) })

function remove(i: number): void {
  if (props.stops.length > 2) emit('change', { stops: props.stops.filter((_, k) => k !== i) })
  else message.info('A map has two stops at least.', { duration: 3000 })
}

const shown = (s: MapStop): string =>
  Array.isArray(s.out) ? s.out.map(short).join(', ') : typeof s.out === 'number' ? short(s.out) : String(s.out ?? '')
</script>

<template>
  <StopsPlot
    :stops="stops"
    :type="type"
    :input="input"
    :reach="reach"
    :room="room"
    :response="response"
    @preview="(i, what) => emit('preview', { stops: altered(i, what) })"
    @change="set"
    @add="(s) => emit('change', { stops: [...stops, s].sort((a, b) => a.in - b.in) })"
    @remove="remove"
  />
  <div v-if="!unmarked || !bounded" class="line">
    <template v-if="!unmarked">
      <button class="plain mark" title="Make the present value what the bottom of the range gives" @click="emit('mark', 'low')">
        Set low
      </button>
      <button class="plain mark" title="Make the present value what the top of the range gives" @click="emit('mark', 'high')">
        Set high
      </button>
      <button class="plain mark" title="Add a stop at the source's current value" @click="emit('mark', 'here')">Add stop</button>
    </template>
    <span v-if="!bounded" class="beyond"
      >Outside range
      <ChoiceField
        size="tiny"
        class="narrow"
        :value="beyond"
        :options="ends"
        label="Outside range"
        @update:value="(beyond: Beyond) => emit('change', { beyond })"
    /></span>
  </div>
  <div v-for="(s, i) in stops" :key="i" class="line row">
    <ValueField
      :label="`Input of stop ${i + 1}`"
      :value="s.in"
      @preview="(x) => emit('preview', { stops: altered(i, { in: x }) })"
      @commit="(x) => set(i, { in: x })"
      @cancel="doc.cancelPreview"
    />
    <span class="quiet">→</span>
    <ValueField
      v-if="typeof s.out === 'number'"
      :label="`Output of stop ${i + 1}`"
      :value="s.out"
      @preview="(x) => emit('preview', { stops: altered(i, { out: x }) })"
      @commit="(x) => set(i, { out: x })"
      @cancel="doc.cancelPreview"
    />
    <ColourField
      v-else-if="colour && Array.isArray(s.out)"
      :label="`Output of stop ${i + 1}`"
      :value="s.out"
      @commit="(c) => set(i, { out: c })"
    />
    <input
      v-else-if="typeof s.out === 'string'"
      class="text"
      :value="s.out"
      :aria-label="`Output of stop ${i + 1}`"
      @change="set(i, { out: ($event.target as HTMLInputElement).value })"
      @keydown.stop
    />
    <span v-else class="figures quiet">{{ shown(s) }}</span>
    <ChoiceField
      v-if="i < stops.length - 1 && !jumps && type !== 'text'"
      size="tiny"
      class="narrow"
      :value="s.easing"
      :options="easings"
      :label="`Easing after stop ${i + 1}`"
      @update:value="(easing: Easing) => set(i, { easing })"
    />
    <span class="space" />
    <button v-if="stops.length > 2" class="plain quiet" :aria-label="`Delete stop ${i + 1}`" @click="remove(i)">×</button>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 6px;
  min-height: 26px;
  font-size: 12px;
}
.mark {
  min-height: 24px;
  color: var(--brassText);
  padding: 0 4px;
  border-radius: 3px;
  white-space: nowrap;
}
.mark:hover {
  background: var(--picked);
}
.beyond {
  display: flex;
  align-items: center;
  gap: 3px;
  margin-left: auto;
  color: var(--ink2);
}
.narrow {
  width: 84px;
}
.text {
  width: 90px;
  font: inherit;
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 3px;
}
.space {
  flex: 1;
}
</style>
