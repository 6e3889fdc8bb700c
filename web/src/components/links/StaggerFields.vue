<script setup lang="ts">
import { computed } from 'vue'
import { core } from '@/core/client'
import type { Id, Link, Spec, Stagger } from '@/core/types'
import { useDocument } from '@/stores/document'
import AxisFields from './AxisFields.vue'
import StopsEditor from './StopsEditor.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import ValueField from '@/components/shared/ValueField.vue'

/** What each member of a row gets in turn, and how members are counted. */
const props = defineProps<{ link: Link; property: Spec; spread: Id }>()
const emit = defineEmits<{ preview: [what: Partial<Link>]; change: [what: Partial<Link>] }>()
const doc = useDocument()

const stagger = computed<Stagger>(() => props.link.stagger ?? {})
const addUp = (what: Stagger): Partial<Link> => ({ stagger: { ...stagger.value, ...what } })

const fields: { key: 'gain' | 'delay'; label: string; step: number; unit?: string }[] = [
  { key: 'gain', label: 'Gain', step: 0.1 },
  { key: 'delay', label: 'Delay', step: 1, unit: 'f' },
]
const countings = [
  { label: '× index (0, 1, 2…)', value: '' },
  { label: '× number (1, 2, 3…)', value: 'number' },
  { label: 'spread across the row', value: 'share' },
  { label: 'along a curve', value: 'curve' },
]
/** Up to the middle of the row and down again, until it is shaped. */
const hill: Stagger['curve'] = [
  { in: 0, out: 0, easing: 'smooth' },
  { in: 0.5, out: 1, easing: 'smooth' },
  { in: 1, out: 0, easing: 'smooth' },
]

function count(by: string): void {
  emit(
    'change',
    addUp({ by: (by || undefined) as Stagger['by'], curve: by === 'curve' ? (stagger.value.curve ?? hill) : stagger.value.curve }),
  )
}

const response = async (from: number, to: number, steps: number): Promise<number[]> =>
  (await core.ask('response', { ref: { item: '', property: '' }, link: '', spread: props.spread, from, to, steps })).result ?? []
</script>

<template>
  <span class="wide quiet heading">Stagger: for each member in turn</span>
  <div class="cell wide">
    Offset
    <AxisFields
      label="Stagger of offset"
      :link="link"
      :property="property"
      :offset="stagger.offset ?? 0"
      :offsets="stagger.offsets"
      @preview="(what) => emit('preview', addUp(what))"
      @change="(what) => emit('change', addUp(what))"
    />
  </div>
  <label v-for="f in fields" :key="f.key" class="cell"
    >{{ f.label }}
    <ValueField
      :label="`Stagger of ${f.key}`"
      :value="stagger[f.key] ?? 0"
      :step="f.step"
      :unit="f.unit"
      @preview="(x) => emit('preview', addUp({ [f.key]: x }))"
      @commit="(x) => emit('change', addUp({ [f.key]: x }))"
      @cancel="doc.cancelPreview"
  /></label>
  <div class="cell wide">
    Counted
    <ChoiceField
      class="counting"
      size="tiny"
      :value="stagger.by ?? ''"
      :options="countings"
      label="How members are counted"
      @update:value="count"
    />
  </div>
  <div
    v-if="stagger.by === 'curve'"
    class="wide"
    role="group"
    aria-label="Curve of the stagger, from the first member at 0 to the last at 1"
  >
    <StopsEditor
      :stops="stagger.curve ?? []"
      beyond=""
      type="number"
      :reach="[0, 1]"
      :room="[0, 1]"
      :response="response"
      unmarked
      bounded
      @preview="({ stops }) => emit('preview', addUp({ curve: stops }))"
      @change="({ stops }) => emit('change', addUp({ curve: stops }))"
    />
  </div>
  <span class="wide quiet heading">The link</span>
</template>

<style scoped src="./editor.css" />

<style scoped>
.heading {
  border-top: 1px solid var(--line);
  padding-top: 3px;
  margin-top: 3px;
}
.counting {
  width: 160px;
}
</style>
