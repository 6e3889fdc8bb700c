<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, nextTick } from 'vue'
import EditableName from '@/components/shared/EditableName.vue'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useWorkspace } from '@/stores/workspace'
import GraphSheet from './GraphSheet.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** Graphs: boxes and cables that say what formulas say. */
const doc = useDocument()
const graphs = useGraphs()
const workspace = useWorkspace()

/** What is done with the sheet from its head leaves the keys with the sheet. */
async function toSheet(done?: Promise<unknown>): Promise<void> {
  await done
  await nextTick()
  document.querySelector<HTMLElement>('[data-sheet]')?.focus()
}
const make = (using: Parameters<typeof graphs.make>[0]): void => void toSheet(graphs.make(using))

const options = computed(() => graphs.list.map((g) => ({ label: g.name, key: g.id })))
/** The slip that is picked, read out. */
const said = computed(() => {
  const one = graphs.picked.length === 1 ? graphs.given.get(graphs.picked[0] ?? '') : undefined
  return one ? graphs.spoken(one) : ''
})
const examples = [
  { name: 'something that sways', text: 'sway = wave(time * 0.25)\nsway * 12' },
  { name: 'a row that trails', text: 'if(index = 0, wave(time * 0.3) * 20, delay({prev: rotation} else 0, 3f))' },
  { name: 'a light that flickers', text: 'flicker = noise(time * 6)\nclamp(80 + flicker * 30, 0, 100)' },
]

const ways = [
  { key: 'left', label: 'Left edges' },
  { key: 'top', label: 'Upper edges' },
  { key: 'across', label: 'Spread evenly across' },
  { key: 'down', label: 'Spread evenly down' },
]
const align = (how: string): void => {
  if (graphs.graph) void toSheet(doc.gesture('align slips', { graph: graphs.graph.id, slips: graphs.picked, how }))
}

const ends = [
  { key: 'formulas', label: 'Replace with formulas' },
  { key: 'remove', label: 'Delete with its links' },
]

function rename(name: string): void {
  const g = graphs.graph
  if (g) void doc.operations({ op: 'graph.set', graph: g.id, name, ...(g.note && { note: g.note }) })
}
function remove(formulas: boolean): void {
  const g = graphs.graph
  if (g) void doc.gesture('remove graph', { graph: g.id, ...(formulas && { formulas }) })
}
</script>

<template>
  <section class="panel" aria-label="Graph" data-panel="graph">
    <header>
      <template v-if="graphs.graph">
        <h2><EditableName label="Name of the graph" :name="graphs.graph.name" @rename="rename" /></h2>
        <MenuList
          v-if="graphs.list.length > 1"
          trigger="click"
          size="small"
          :options="options"
          @select="(id: string) => (graphs.open(id), toSheet())"
        >
          <button class="plain act" aria-label="Which graph" title="Another graph">▾</button>
        </MenuList>
        <span v-if="graphs.graph.note" class="fine said" :title="graphs.graph.note">{{ graphs.graph.note }}</span>
        <label v-if="graphs.shown.members" class="fine">
          member
          <input
            class="figures"
            type="number"
            min="1"
            :max="graphs.shown.members"
            :value="graphs.shown.member + 1"
            aria-label="Member shown"
            @keydown.stop
            @change="(e) => (graphs.member = Number((e.target as HTMLInputElement).value) - 1)"
          />
          of {{ graphs.shown.members }}</label
        >
        <span class="space" />
        <span v-if="!workspace.pulled" class="fine">/ or double-click to add</span>
        <button
          class="plain act"
          title="G"
          :aria-pressed="workspace.pulled"
          @click="((workspace.pulledUp = !workspace.pulledUp), toSheet())"
        >
          {{ workspace.pulled ? 'Lower' : 'Raise' }}
        </button>
        <MenuList v-if="graphs.picked.length > 1" trigger="click" size="small" :options="ways" @select="align">
          <button class="plain act">Align</button>
        </MenuList>
        <button class="plain act" @click="toSheet(doc.gesture('arrange slips', { graph: graphs.graph.id }))">Lay out</button>
        <MenuList trigger="click" size="small" :options="ends" @select="(key: string) => remove(key === 'formulas')">
          <button class="plain act" aria-label="Actions for the graph">⋯</button>
        </MenuList>
      </template>
      <span v-else class="space" />
      <NButton size="tiny" quaternary @click="make({})">+ Graph</NButton>
    </header>
    <span class="hidden-label" role="status">{{ said }}</span>
    <GraphSheet v-if="graphs.graph" />
    <div v-else class="empty">
      <p>A graph says with boxes and cables what a formula says with words: add slips (nodes), wire them, and let one drive a property.</p>
      <p>
        Begin with
        <template v-for="(e, k) in examples" :key="e.name"
          ><button class="plain act" @click="make({ name: e.name, text: e.text })">{{ e.name }}</button
          >{{ k < examples.length - 1 ? ',' : '.' }}
        </template>
        Or open any link as a graph on the Card.
      </p>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 30px;
  overflow: clip visible;
  padding: 0 12px;
  background: var(--picked);
  border-bottom: 1px solid var(--line);
}
header > * {
  flex: none;
  white-space: nowrap;
}
header > h2 {
  flex: 0 1 auto;
  min-width: 90px;
}
header > .said {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
h2 {
  margin: 0;
  font: 600 13px var(--face-heading);
}
header > .space {
  flex: 1;
}
.fine {
  color: var(--ink2);
  font-size: 12px;
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
.fine input {
  height: 24px;
  width: 56px;
  border: 1px solid var(--line);
  background: var(--card);
  color: var(--ink);
}
.act {
  color: var(--brassText);
  font-size: 12px;
}
.empty {
  padding: 24px 32px;
  max-width: 620px;
  color: var(--ink2);
}
.empty .act {
  margin: 0 6px;
}
</style>
