<script setup lang="ts">
import type { Id, Link, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'

/** A link that a graph gives its value: the way to the graph, and back to a formula. */
const props = defineProps<{ link: Link; property: Spec; items: Id[]; spread?: Id }>()
const doc = useDocument()
const graphs = useGraphs()

function asFormula(): void {
  const target = { item: props.items[0] ?? '', property: props.property.key }
  void doc.gesture('as formula', props.spread ? { target, spread: props.spread } : { target, link: props.link.id })
}
</script>

<template>
  <div class="line">
    <button class="plain act" @click="graphs.open(link.graph ?? '')">open the graph</button>
    <button class="plain act" @click="asFormula">write as formula</button>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
}
.act {
  color: var(--brassText);
  font-size: 12px;
}
</style>
