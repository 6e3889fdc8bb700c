<script setup lang="ts">
import { useTemplateRef } from 'vue'
import type { Id } from '@/core/types'
import { useGraphs } from '@/stores/graphs'
import { figure } from './sheet/figure'
import { useHeard } from './sheet/heard'

/** What an output gives now, written into the page by itself: while it plays, nothing else of the sheet is drawn anew. */
const props = defineProps<{ slip: Id; out: string }>()
const graphs = useGraphs()
const place = useTemplateRef<HTMLElement>('place')
let written = ''
function write(): void {
  const text = figure(graphs.output(props.slip, props.out))
  if (place.value && text !== written) place.value.textContent = written = text
}
useHeard(
  () => props.slip,
  () => props.out,
  write,
)
</script>

<template><span ref="place" class="figures" /></template>
