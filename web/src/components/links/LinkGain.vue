<script setup lang="ts">
import type { Link } from '@/core/types'
import { useDocument } from '@/stores/document'
import ValueField from '@/components/shared/ValueField.vue'

/** What the number of a link is multiplied by, and what is added to it. */
defineProps<{ link: Link }>()
const emit = defineEmits<{ preview: [what: Partial<Link>]; change: [what: Partial<Link>] }>()
const doc = useDocument()
const fields = [
  { key: 'gain', label: 'Gain', step: 0.1 },
  { key: 'offset', label: 'Offset', step: 1 },
] as const
</script>

<template>
  <label v-for="f in fields" :key="f.key"
    >{{ f.key }}
    <ValueField
      :label="f.label"
      :value="link[f.key]"
      :step="f.step"
      @preview="(x) => emit('preview', { [f.key]: x })"
      @commit="(x) => emit('change', { [f.key]: x })"
      @cancel="doc.cancelPreview"
  /></label>
</template>

<style scoped src="./editor.css" />
