<script setup lang="ts">
import { computed } from 'vue'
import type { Id, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'

/** What a drive slip gives its value, and the way to let it drive what is selected. */
const props = defineProps<{ id: Id }>()
const graphs = useGraphs()
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const drives = computed(() => graphs.given.get(props.id)?.drives ?? [])

function drive(roster: boolean): void {
  if (graphs.graph)
    void doc.gesture('drive', { graph: graphs.graph.id, slip: props.id, targets: selection.targets, ...(roster && { roster }) })
}
function search(): void {
  const graph = graphs.graph?.id
  const take = (ref: Ref): unknown => doc.gesture('drive', { graph: graph ?? '', slip: props.id, targets: [ref] })
  wiring.choosing = { from: graphs.graph?.name ?? '', take }
}
const turn = (d: (typeof drives.value)[number]): void => void doc.gesture('turn round', { target: d.ref, link: d.link })
</script>

<template>
  <p v-for="d in drives" :key="d.link" class="drives">
    {{ d.name }}
    <button
      v-if="!d.spread && drives.length === 1"
      class="plain nodrag turn"
      title="Read what is driven here, and drive what is read"
      @click="turn(d)"
    >
      turn round
    </button>
  </p>
  <p v-if="!drives.length" class="fine">Not linked</p>
  <div class="acts nodrag">
    <button class="plain" :disabled="!selection.targets.length" @click="drive(false)">Drive the selection</button>
    <button v-if="selection.targets.length > 1" class="plain" @click="drive(true)">As a row</button>
    <button class="plain" data-enter @click="search">Drive a property…</button>
  </div>
</template>

<style scoped>
.drives,
.fine {
  margin: 2px 0 0;
  overflow-wrap: anywhere;
}
.drives {
  color: var(--verdigris);
}
.fine {
  color: var(--ink2);
}
.turn,
.acts button {
  font-size: 11px;
  color: var(--brassText);
}
.acts {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 2px;
  margin-top: 4px;
}
.acts button:disabled {
  color: var(--ink2);
}
</style>
