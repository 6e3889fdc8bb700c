<script setup lang="ts">
import { computed, inject } from 'vue'
import EditableName from '@/components/shared/EditableName.vue'
import type { FoldPort, Id, SlipOutput } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { holding } from './sheet/hand'
import { foldHandle, whole } from './sheet/view'
import SlipDrive from './SlipDrive.vue'
import SlipMenu from './SlipMenu.vue'
import SlipPort from './SlipPort.vue'
import SlipStops from './SlipStops.vue'

/** A slip of paper: what it is called, its inputs at the left edge, what it gives at the right. */
const props = defineProps<{ id: Id; selected?: boolean; ports?: FoldPort[] }>()
const graphs = useGraphs()
const doc = useDocument()
const hand = inject(holding)

const slip = computed(() => graphs.slips.get(props.id))
const given = computed(() => graphs.given.get(props.id))
const title = computed(() => slip.value?.title || given.value?.called || slip.value?.text || slip.value?.kind || '')
const outs = computed<SlipOutput[]>(() => {
  const s = slip.value
  if (!s || ['drive', 'readout', 'fold'].includes(s.kind)) return []
  if (s.kind !== 'words') return [graphs.output(s.id, '')]
  const words = doc.catalogue.words.find((w) => w.text === s.text)?.outs ?? []
  const known = new Set((given.value?.outs ?? []).map((o) => o.key))
  return words.map((key) => (known.has(key) ? graphs.output(s.id, key) : { key, tag: 'n', value: null }))
})
const folds = computed(() => (slip.value?.kind === 'fold' ? (props.ports ?? []) : []))

/** What comes to an input by its wire. */
function coming(slip: Id, key: string): SlipOutput | undefined {
  const wire = graphs.leading.get(`${slip}/${key}`)
  return wire && graphs.output(wire.from, wire.out ?? '')
}

/** What is written in the field of an input, with the names of what it refers to. */
const field = (slip: Id, key: string): string => graphs.given.get(slip)?.fields?.[key] ?? graphs.slips.get(slip)?.fields?.[key] ?? ''
function fill(slip: Id, key: string, text: string): void {
  const s = graphs.slips.get(slip)
  if (s && field(slip, key) !== text.trim()) graphs.edit(s, { fields: { ...s.fields, [key]: text.trim() } })
}
const written = computed(() => slip.value?.kind === 'value' || slip.value?.kind === 'formula')
const help = computed(() => slip.value && doc.catalogue.functions.find((f) => f.name === slip.value?.text)?.help)
</script>

<template>
  <article
    v-if="slip"
    class="slip"
    :class="[slip.kind, { selected, fault: given?.fault }]"
    :aria-label="given ? graphs.spoken(given) : title"
    :data-slip="title"
  >
    <h3 :title="given?.fault || help || undefined">
      <EditableName label="Title of the slip" :name="title" @rename="(name) => graphs.edit(slip!, { title: name })" />
      <SlipMenu :id="id" />
    </h3>
    <textarea
      v-if="written"
      class="figures nodrag nowheel"
      :rows="slip.kind === 'value' ? 1 : 3"
      :value="given?.text ?? slip.text"
      :aria-label="`Text of ${title}`"
      @keydown.stop
      @change="(e) => graphs.edit(slip!, { text: (e.target as HTMLTextAreaElement).value })"
    />
    <SlipPort
      v-for="port in given?.ins ?? []"
      :key="port.key"
      :slip="id"
      :port="port.key"
      :handle="port.key"
      :name="port.name"
      :of="title"
      :coming="coming(id, port.key)"
      :field="slip.kind === 'apply' || slip.kind === 'map' ? field(id, port.key) : undefined"
      @fill="(text) => fill(id, port.key, text)"
    />
    <SlipPort
      v-for="p in folds"
      :key="foldHandle(p) + p.out"
      :slip="p.slip"
      :port="p.key ?? ''"
      :handle="foldHandle(p)"
      :name="p.name"
      :of="title"
      :out="p.out"
      :coming="p.out ? graphs.output(p.slip, p.key ?? '') : coming(p.slip, p.key ?? '')"
      :field="p.out ? undefined : field(p.slip, p.key ?? '')"
      @fill="(text) => fill(p.slip, p.key ?? '', text)"
    />
    <p v-if="slip.kind === 'fold' && !folds.length" class="fine">It shows no input and no output: nothing leads out of it.</p>
    <SlipStops v-if="slip.kind === 'map'" :slip="slip" :coming="coming(id, '1')" />
    <SlipPort
      v-for="out in outs"
      :key="out.key"
      :slip="id"
      :port="out.key"
      :handle="out.key || whole"
      :name="out.key"
      :of="title"
      :coming="out"
      out
    />
    <div v-if="slip.kind === 'readout'" class="large figures">{{ hand?.figure(coming(id, 'in')) }}</div>
    <SlipDrive v-if="slip.kind === 'drive'" :id="id" />
    <button v-if="slip.kind === 'fold'" class="plain act nodrag" @click="graphs.edit(slip, { open: true })">open</button>
    <p v-if="given?.fault" class="wrong">{{ given.fault }}</p>
  </article>
</template>

<style scoped>
.slip {
  min-width: 132px;
  max-width: 230px;
  padding: 6px 14px 8px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 2px;
  box-shadow: 1px 2px 3px rgb(0 0 0 / 12%);
  font-size: 12px;
  color: var(--ink);
}
.slip.selected {
  border-color: var(--brass);
  box-shadow: 0 0 0 1px var(--brass);
}
.slip.map {
  width: 230px;
}
.slip.drive {
  border-right: 4px solid var(--verdigris);
}
.slip.fold {
  box-shadow:
    3px 3px 0 -1px var(--card),
    3px 3px 0 0 var(--line),
    6px 6px 0 -1px var(--card),
    6px 6px 0 0 var(--line);
}
.slip.fold.selected {
  outline: 1px solid var(--brass);
}
.slip.fault {
  border-style: dashed;
  border-color: var(--oxblood);
}
h3 {
  display: flex;
  align-items: baseline;
  gap: 4px;
  margin: 0 0 4px;
  font: 600 13px var(--face-heading);
}
h3 :deep(.name) {
  flex: 1;
  font: inherit;
}
textarea {
  width: 100%;
  padding: 1px 4px;
  border: 1px solid var(--line);
  border-radius: 2px;
  background: var(--sunk);
  color: var(--ink);
  font-size: 11px;
  resize: vertical;
}
.large {
  font-size: 22px;
}
.act {
  color: var(--brassText);
  font-size: 12px;
}
.fine,
.wrong {
  margin: 2px 0 0;
  overflow-wrap: anywhere;
}
.fine {
  color: var(--ink2);
}
.wrong {
  color: var(--oxblood);
}
</style>
