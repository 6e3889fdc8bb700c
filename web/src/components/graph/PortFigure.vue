<script setup lang="ts">
import { onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue'
import type { Id } from '@/core/types'
import { useGraphs } from '@/stores/graphs'
import { figure } from './sheet/figure'

/** What an output gives now, written into the page by itself: while it plays, nothing else of the sheet is drawn anew. */
const props = defineProps<{ slip: Id; out: string }>()
const graphs = useGraphs()
const place = useTemplateRef<HTMLElement>('place')
let written = ''
let deaf: (() => void) | undefined

function write(): void {
  const text = figure(graphs.output(props.slip, props.out))
  if (place.value && text !== written) place.value.textContent = written = text
}
function hear(): void {
  deaf?.()
  deaf = graphs.hear(props.slip, write)
  write()
}
onMounted(hear)
watch(() => [props.slip, props.out, graphs.given], hear, { flush: 'post' })
onBeforeUnmount(() => deaf?.())
</script>

<template><span ref="place" class="figures" /></template>
