<script setup lang="ts">
import { NColorPicker } from 'naive-ui'
import { computed } from 'vue'
import { css, fromHex, hex } from '@/composables/format'

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
  <NColorPicker :value="text" :modes="['hex']" size="small" :on-update:value="change" :on-update:show="shown">
    <template #trigger="{ onClick, ref: anchor }">
      <button :ref="anchor" class="plain swatch" :class="{ driven }" :aria-label="`${label}: ${text}`" :title="text" @click="onClick">
        <i :style="{ background: css(value) }" />
      </button>
    </template>
  </NColorPicker>
</template>

<style scoped>
.swatch {
  width: 44px;
  height: 16px;
  flex: none;
  border: 1px solid var(--track);
  border-radius: 3px;
  background: repeating-conic-gradient(var(--line) 0 25%, var(--card) 0 50%) 0 0 / 8px 8px;
}
.swatch.driven {
  border-color: var(--verdigris);
  border-width: 2px;
}
.swatch i {
  display: block;
  width: 100%;
  height: 100%;
  border-radius: 2px;
}
</style>
