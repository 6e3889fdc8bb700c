<script setup lang="ts">
import { computed } from 'vue'
import type { Id, Link, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'

/** A link that a graph gives its value: the way to the graph, marks in its map, and back to a formula. */
const props = defineProps<{ link: Link; property: Spec; items: Id[]; spread?: Id }>()
defineEmits<{ preview: [what: Partial<Link>]; change: [what: Partial<Link>] }>() // it sends what it changes by itself
const doc = useDocument()
const graphs = useGraphs()

const target = computed(() => ({ item: props.items[0] ?? '', property: props.property.key }))
/** Whether a map of the graph leads straight to the property, so that it can be marked. */
const mapped = computed(() => {
  const graph = doc.graphs.find((g) => g.id === props.link.graph)
  const wire = graph?.wires?.find((w) => w.to === props.link.slip && w.in === 'in')
  return !props.spread && !wire?.out && graph?.slips?.find((s) => s.id === wire?.from)?.kind === 'map'
})
const mark = (which: string): void => void doc.gesture('mark', { targets: [{ ...target.value, component: props.link.component }], which })

function asFormula(): void {
  void doc.gesture(
    'as formula',
    props.spread ? { target: target.value, spread: props.spread } : { target: target.value, link: props.link.id },
  )
}
</script>

<template>
  <div class="line">
    <template v-if="mapped">
      <button class="plain act" title="Store the current value as the first stop of the map" @click="mark('low')">Set low</button>
      <button class="plain act" title="Store the current value as the last stop of the map" @click="mark('high')">Set high</button>
      <button class="plain act" title="Add a stop where it stands now" @click="mark('here')">Add stop</button>
    </template>
    <button class="plain act" @click="graphs.open(link.graph ?? '')">Open the graph</button>
    <button class="plain act" @click="asFormula">Write as formula</button>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
.act {
  color: var(--brassText);
  font-size: 12px;
}
</style>
