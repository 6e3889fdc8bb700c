<script setup lang="ts">
import { computed } from 'vue'
import type { Link, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import ValueField from '@/components/shared/ValueField.vue'

/** An offset: one number, or, where a link drives a whole point, one for each axis. */
const props = defineProps<{ link: Link; property: Spec; label: string; offset: number; offsets?: number[]; unit?: string }>()
type What = { offset: number; offsets?: number[] }
const emit = defineEmits<{ preview: [what: What]; change: [what: What] }>()
const doc = useDocument()

const axes = computed(() => (!props.link.component && props.property.type.startsWith('point') ? (props.property.parts ?? []) : []))
const at = (k: number): number => props.offset + (props.offsets?.[k] ?? 0)

/** What is added in all, axis by axis, with one of them changed; the offset that all share is put away into them. */
function altered(k: number, to: number): What {
  const all = axes.value.map((_, i) => (i === k ? to : at(i)))
  const same = all.every((x) => x === all[0])
  return same ? { offset: all[0] ?? 0, offsets: undefined } : { offset: 0, offsets: all }
}
</script>

<template>
  <span v-if="axes.length" class="axes">
    <label v-for="(axis, k) in axes" :key="axis"
      >{{ axis
      }}<ValueField
        :label="`${label} ${axis}`"
        :value="at(k)"
        @preview="(x) => emit('preview', altered(k, x))"
        @commit="(x) => emit('change', altered(k, x))"
        @cancel="doc.cancelPreview"
    /></label>
  </span>
  <ValueField
    v-else
    :label="label"
    :value="offset"
    :unit="unit"
    @preview="(x) => emit('preview', { offset: x, offsets })"
    @commit="(x) => emit('change', { offset: x, offsets })"
    @cancel="doc.cancelPreview"
  />
</template>

<style scoped>
.axes {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
}
label {
  display: flex;
  align-items: center;
  gap: 3px;
  color: var(--ink2);
}
</style>
