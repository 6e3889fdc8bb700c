<script setup lang="ts">
/** Small line drawings of our own, one for each kind of item. */
const drawings: Record<string, string> = {
  null: 'M8 3.2a4.8 4.8 0 1 0 0 9.6a4.8 4.8 0 1 0 0-9.6M8 7.2v1.6M7.2 8h1.6',
  text: 'M3.5 13L8 3l4.5 10M5.3 9.4h5.4M2.5 13h2.4M11.1 13h2.4',
  rectangle: 'M2.8 4.2h10.4v7.6H2.8zM2.8 6.2l2-2M11.2 11.8l2-2',
  ellipse: 'M8 4c3.2 0 5.4 1.7 5.4 4S11.2 12 8 12S2.6 10.3 2.6 8S4.8 4 8 4M5 8c0-1 .8-1.7 1.8-2',
}
defineProps<{ kind: string }>()
</script>

<template>
  <svg class="kind" viewBox="0 0 16 16" aria-hidden="true"><path :d="drawings[kind]" /></svg>
</template>

<style scoped>
.kind { width: 16px; height: 16px; flex: none; fill: none; stroke: currentColor; stroke-width: 1.2; stroke-linecap: round; stroke-linejoin: round; }
</style>
