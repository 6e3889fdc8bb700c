<script setup lang="ts">
import { drawings } from '@/composables/kinds'
import type { ItemKind } from '@/core/types'

defineProps<{ kind: ItemKind }>()
</script>

<template>
  <svg class="kind" viewBox="0 0 16 16" aria-hidden="true"><path :d="drawings[kind]" /></svg>
</template>

<style scoped>
.kind {
  width: 16px;
  height: 16px;
  flex: none;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
