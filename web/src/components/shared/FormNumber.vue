<script setup lang="ts">
import { NInputNumber } from 'naive-ui'

/** A number in a form, with its name for screen readers. */
defineProps<{ label: string; value: number; min?: number; max?: number }>()
const emit = defineEmits<{ 'update:value': [x: number] }>()
</script>

<template>
  <NInputNumber
    :value="value"
    size="small"
    :min="min"
    :max="max"
    :show-button="false"
    :input-props="{ 'aria-label': label }"
    @update:value="(x) => x !== null && emit('update:value', x)"
  />
</template>
