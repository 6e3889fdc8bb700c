<script setup lang="ts">
import { computed } from 'vue'
import EditableName from '@/components/shared/EditableName.vue'
import type { FoldPort, Id, SlipOutput } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { foldHandle, whole } from './sheet/view'
import PortFigure from './PortFigure.vue'
import SlipDrive from './SlipDrive.vue'
import SlipList from './SlipList.vue'
import SlipMenu from './SlipMenu.vue'
import SlipPort from './SlipPort.vue'
import SlipStops from './SlipStops.vue'

/** A slip of paper: what it is called, its inputs at the left edge, what it gives at the right. */
const props = defineProps<{ id: Id; selected?: boolean; ports?: FoldPort[] }>()
const graphs = useGraphs()
const doc = useDocument()

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

/** The output that leads to an input. */
function source(slip: Id, key: string): { slip: Id; out: string } | undefined {
  const wire = graphs.leading.get(`${slip}/${key}`)
  return wire && { slip: wire.from, out: wire.out ?? '' }
}
/** What comes to an input by its wire. */
function coming(slip: Id, key: string): SlipOutput | undefined {
  const from = source(slip, key)
  return from && graphs.output(from.slip, from.out)
}

/** What is written in the field of an input, with the names of what it refers to. */
const field = (slip: Id, key: string): string => graphs.given.get(slip)?.fields?.[key] ?? graphs.slips.get(slip)?.fields?.[key] ?? ''
function fill(slip: Id, key: string, text: string): void {
  const graph = graphs.graph?.id
  if (graph && field(slip, key) !== text.trim()) void doc.gesture('fill input', { graph, slip, in: key, text })
}
/** What does not fit of what is led to its inputs. */
const misfits = computed(() =>
  (given.value?.ins ?? []).flatMap((p) => {
    const fit = graphs.turns.get(`${props.id}/${p.key}`)
    const text = fit?.refused || fit?.doubt
    return text && fit ? [{ key: p.key, text, refused: !!fit.refused }] : []
  }),
)
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
      :from="source(id, port.key)"
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
      :from="p.out ? { slip: p.slip, out: p.key ?? '' } : source(p.slip, p.key ?? '')"
      :field="p.out ? undefined : field(p.slip, p.key ?? '')"
      @fill="(text) => fill(p.slip, p.key ?? '', text)"
    />
    <p v-if="slip.kind === 'fold' && !folds.length" class="fine">It shows no input and no output: nothing leads out of it.</p>
    <SlipStops v-if="slip.kind === 'map'" :slip="slip" :from="source(id, '1')" />
    <SlipPort
      v-for="out in outs"
      :key="out.key"
      :slip="id"
      :port="out.key"
      :handle="out.key || whole"
      :name="out.key"
      :of="title"
      :coming="out"
      :from="{ slip: id, out: out.key }"
      out
    />
    <SlipList v-if="slip.kind === 'read' && outs[0]?.list" :slip="id" :list="outs[0].list" />
    <div v-if="slip.kind === 'readout'" class="large">
      <PortFigure v-if="source(id, 'in')" :slip="source(id, 'in')!.slip" :out="source(id, 'in')!.out" />
      <template v-else>–</template>
    </div>
    <SlipDrive v-if="slip.kind === 'drive'" :id="id" />
    <button v-if="slip.kind === 'fold'" class="plain act nodrag" @click="graphs.edit(slip, { open: true })">Open</button>
    <p v-if="given?.fault" class="wrong">{{ given.fault }}</p>
    <p v-for="m in misfits" :key="m.key" :class="m.refused ? 'wrong' : 'fine'">{{ m.text }}</p>
  </article>
</template>

<style scoped>
.slip {
  min-width: 132px;
  max-width: 230px;
  padding: 2px 14px 8px;
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
  align-items: center;
  gap: 4px;
  margin: 0;
  font: 600 13px var(--face-heading);
}
h3 :deep(.name) {
  flex: 1;
  min-height: 24px;
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
