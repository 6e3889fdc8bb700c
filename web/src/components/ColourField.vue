<script setup lang="ts">
import { NColorPicker } from 'naive-ui'
import { computed } from 'vue'
import { fromHex, hex } from '@/composables/format'

/** A colour with alpha: a swatch that opens a picker. Closing the picker ends the gesture. */
const props = defineProps<{ value: number[]; label: string; driven?: boolean }>()
const emit = defineEmits<{ preview: [value: number[]]; commit: [value: number[]] }>()

const text = computed(() => hex(props.value).toUpperCase())
let latest: number[] | null = null

function change(value: string): void {
  latest = fromHex(value)
  emit('preview', latest)
}

function shown(open: boolean): void {
  if (open || !latest) return
  emit('commit', latest)
  latest = null
}
</script>

<template>
  <NColorPicker class="swatch" :class="{ driven }" :value="text" :modes="['hex']" size="small" :aria-label="label" :on-update:value="change" :on-update:show="shown">
    <template #label>{{ '' }}</template>
  </NColorPicker>
</template>

<style scoped>
.swatch { width: 44px; height: 18px; }
.swatch :deep(.n-color-picker-trigger) { height: 18px; border-radius: 3px; }
.swatch.driven :deep(.n-color-picker-trigger) { border-color: var(--verdigris); }
</style>
