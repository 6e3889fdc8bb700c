<script setup lang="ts">
import { NSwitch } from 'naive-ui'
import type { Spec, Value } from '@/core/types'
import ChoiceField from './ChoiceField.vue'
import ColourField from './ColourField.vue'
import ValueField from './ValueField.vue'

/** A value that a property can have, whatever its type, and the way to change it; or what is added to one, in numbers. */
const props = defineProps<{ spec: Spec; value: Value; label: string; component?: string; added?: boolean }>()
const emit = defineEmits<{ preview: [value: Value]; commit: [value: Value]; cancel: [] }>()

const list = (): number[] => (Array.isArray(props.value) ? props.value : [])
const part = (k: number, x: number): number[] => list().map((old, i) => (i === k ? x : old))
</script>

<template>
  <span class="value">
    <input
      v-if="typeof value === 'string'"
      class="text"
      :value="value"
      :aria-label="label"
      @change="emit('commit', ($event.target as HTMLInputElement).value)"
      @keydown.stop
    />
    <ChoiceField
      v-else-if="spec.type === 'choice' && !component"
      class="choice"
      size="tiny"
      :value="Number(value)"
      :options="(spec.options ?? []).map((name, n) => ({ label: name, value: n }))"
      :label="label"
      @update:value="(n: number) => emit('commit', n)"
    />
    <NSwitch
      v-else-if="spec.type === 'switch' && !component"
      size="small"
      :value="value === 1"
      :aria-label="label"
      @update:value="(on: boolean) => emit('commit', on ? 1 : 0)"
    />
    <ColourField
      v-else-if="spec.type === 'colour' && !component && !added"
      :value="list()"
      :label="label"
      @preview="(c) => emit('preview', c)"
      @commit="(c) => emit('commit', c)"
    />
    <ValueField
      v-else-if="typeof value === 'number'"
      :value="value"
      :label="label"
      :step="spec.step"
      :unit="spec.unit || undefined"
      @preview="(x) => emit('preview', x)"
      @commit="(x) => emit('commit', x)"
      @cancel="emit('cancel')"
    />
    <template v-else>
      <ValueField
        v-for="(x, k) in list()"
        :key="k"
        :value="x"
        :label="`${label} ${spec.parts?.[k] ?? ''}`"
        :step="spec.step"
        @preview="(v) => emit('preview', part(k, v))"
        @commit="(v) => emit('commit', part(k, v))"
        @cancel="emit('cancel')"
      />
    </template>
  </span>
</template>

<style scoped>
.value {
  display: inline-flex;
  gap: 2px;
  align-items: center;
}
.text {
  width: 110px;
  font: inherit;
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 3px;
}
.choice {
  width: 110px;
}
</style>
