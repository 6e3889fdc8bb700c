<script setup lang="ts">
import { NInput, NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { short } from '@/composables/format'
import { useWords } from '@/composables/words'
import { useShared } from '@/composables/shared'
import type { Id, Ref, Spec, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import ColourField from '@/components/shared/ColourField.vue'
import ValueField from '@/components/shared/ValueField.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** The value of a property at this frame, of one item or shared by several, and the way to change it. */
const props = defineProps<{ spec: Spec; items: Id[]; part?: string; driven?: boolean }>()
const doc = useDocument()

const { numbers, mixed } = useShared(
  () => props.items,
  () => props.spec,
)
const parts = computed(() => {
  const names = props.spec.parts ?? ['']
  if (props.part) return [names.indexOf(props.part)]
  // In a row a place shows x and y; z stands with the parts.
  return names.slice(0, 2).map((_, k) => k)
})

function targets(component?: string): Ref[] {
  return props.items.map((item) => (component ? { item, property: props.spec.key, component } : { item, property: props.spec.key }))
}

function set(how: 'preview' | 'gesture', value: Value, component?: string): void {
  void doc[how]('set', { targets: targets(component), value })
}

const choices = computed(() => (props.spec.options ?? []).map((label, value) => ({ label, value })))
const { words, settle } = useWords(
  () => numbers.value[0],
  (text) => set('gesture', text),
)
/** What can only be read. */
const read = computed(() => {
  if (props.spec.type !== 'text')
    return parts.value.length === 1 ? short(numbers.value[parts.value[0] ?? 0] ?? 0) : numbers.value.map(short).join('  ')
  const [told] = numbers.value as unknown[] // its place among the texts, or itself where it has no slot
  return typeof told === 'number' ? (doc.texts[told] ?? '') : String(told ?? '')
})
const label = (k: number): string => [props.spec.name, props.spec.parts?.[k]].filter(Boolean).join(' ')
</script>

<template>
  <span v-if="spec.readOnly" class="figures read" :data-value="JSON.stringify(numbers)">{{ read }}</span>
  <ChoiceField
    v-else-if="spec.type === 'choice'"
    class="choice"
    size="tiny"
    :value="mixed(0) ? null : numbers[0]"
    :options="choices"
    placeholder="mixed"
    :label="spec.name"
    @update:value="(n: number) => set('gesture', n)"
  />
  <NInput
    v-else-if="spec.type === 'text'"
    v-model:value="words"
    class="words"
    size="tiny"
    type="textarea"
    :autosize="{ minRows: 1, maxRows: 4 }"
    :input-props="{ 'aria-label': spec.name }"
    :maxlength="5000"
    @update:value="(text: string) => set('preview', text)"
    @blur="settle"
    @keydown.stop
  />
  <NSwitch
    v-else-if="spec.type === 'switch'"
    size="small"
    :value="numbers[0] === 1"
    :aria-label="spec.name"
    @update:value="(on: boolean) => set('gesture', on ? 1 : 0)"
  />
  <ColourField
    v-else-if="spec.type === 'colour'"
    :value="numbers"
    :label="spec.name"
    :driven="driven"
    @preview="(c) => set('preview', c)"
    @commit="(c) => set('gesture', c)"
  />
  <template v-else>
    <ValueField
      v-for="k in parts"
      :key="k"
      :value="numbers[k] ?? 0"
      :label="label(k)"
      :step="spec.step"
      :min="spec.held?.[k]?.min ?? spec.min"
      :max="spec.held?.[k]?.max ?? spec.max"
      :unit="parts.length === 1 ? spec.unit : undefined"
      :driven="driven"
      :mixed="mixed(k)"
      @preview="(x) => set('preview', x, spec.parts?.[k])"
      @commit="(x) => set('gesture', x, spec.parts?.[k])"
      @cancel="doc.cancelPreview"
    />
  </template>
</template>

<style scoped>
.words {
  width: 150px;
}
.choice {
  flex: 0 1 128px;
  min-width: 0;
  width: 128px;
}
.read {
  color: var(--ink2);
  white-space: nowrap;
}
</style>
