<script setup lang="ts">
import { Handle, Position } from '@vue-flow/core'
import { computed } from 'vue'
import { short } from '@/composables/format'
import type { Id, SlipOutput, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'

/** A slip of paper: what it is called, its inputs at the left edge, what it gives at the right. */
const props = defineProps<{ id: Id; selected?: boolean }>()
const graphs = useGraphs()
const doc = useDocument()
const selection = useSelection()

const slip = computed(() => graphs.slips.get(props.id))
const given = computed(() => graphs.given.get(props.id))
const title = computed(() => slip.value?.title || given.value?.called || slip.value?.text || slip.value?.kind || '')
const outs = computed<SlipOutput[]>(() => {
  const s = slip.value
  if (!s || ['drive', 'readout', 'note'].includes(s.kind)) return []
  const known = given.value?.outs ?? []
  if (s.kind !== 'words') return known.length ? known : [{ key: '', tag: '', value: null }]
  const words = doc.catalogue.words.find((w) => w.text === s.text)?.outs ?? []
  return words.map((key) => known.find((o) => o.key === key) ?? { key, tag: 'n', value: null })
})

function figure(value: Value | undefined, text?: string): string {
  if (text) return text
  if (value === null || value === undefined) return '–'
  return Array.isArray(value) ? value.map(short).join(', ') : typeof value === 'number' ? short(value) : value
}

/** What comes to an input by its wire. */
function coming(key: string): SlipOutput | undefined {
  const wire = graphs.graph?.wires?.find((w) => w.to === props.id && w.in === key)
  if (!wire) return undefined
  const out = graphs.given.get(wire.from)?.outs
  return out?.find((o) => o.key === (wire.out ?? '')) ?? out?.[0] ?? { key: '', tag: '', value: null }
}

function fill(key: string, text: string): void {
  const s = slip.value
  if (s && (s.fields?.[key] ?? '') !== text.trim()) graphs.edit(s, { fields: { ...s.fields, [key]: text.trim() } })
}

/** Lets a drive slip give the selected properties their values. */
function drive(roster: boolean): void {
  if (graphs.graph)
    void doc.gesture('drive', { graph: graphs.graph.id, slip: props.id, targets: selection.targets, ...(roster && { roster }) })
}
const editable = computed(() => slip.value?.kind === 'value' || slip.value?.kind === 'formula' || slip.value?.kind === 'note')
</script>

<template>
  <article
    v-if="slip"
    class="slip"
    :class="[slip.kind, { selected, fault: given?.fault }]"
    :aria-label="given ? graphs.spoken(given) : title"
    :data-slip="title"
  >
    <h3 :title="given?.fault">{{ title }}</h3>
    <textarea
      v-if="editable"
      class="figures nodrag nowheel"
      :rows="slip.kind === 'value' ? 1 : 3"
      :value="slip.text"
      :aria-label="`Text of ${title}`"
      @keydown.stop
      @change="(e) => graphs.edit(slip!, { text: (e.target as HTMLTextAreaElement).value })"
    />
    <div v-for="port in given?.ins ?? []" :key="port.key" class="port in">
      <Handle :id="port.key" type="target" :position="Position.Left" class="tag figures">{{ coming(port.key)?.tag || '·' }}</Handle>
      <span class="name">{{ port.name }}</span>
      <span v-if="coming(port.key)" class="figures value">{{ figure(coming(port.key)?.value, coming(port.key)?.text) }}</span>
      <input
        v-else-if="slip.kind === 'apply'"
        class="figures nodrag"
        :value="slip.fields?.[port.key] ?? ''"
        :aria-label="`${port.name || 'input ' + port.key} of ${title}`"
        placeholder="–"
        @keydown.stop
        @change="(e) => fill(port.key, (e.target as HTMLInputElement).value)"
      />
    </div>
    <div v-for="out in outs" :key="out.key" class="port out">
      <span class="name">{{ out.key }}</span>
      <span class="figures value">{{ figure(out.value, out.text) }}</span>
      <Handle :id="out.key || 'whole'" type="source" :position="Position.Right" class="tag figures">{{ out.tag || '·' }}</Handle>
    </div>
    <div v-if="slip.kind === 'readout'" class="large figures">{{ figure(coming('in')?.value, coming('in')?.text) }}</div>
    <template v-if="slip.kind === 'drive'">
      <p v-for="d in given?.drives ?? []" :key="d.link" class="drives">{{ d.name }}</p>
      <p v-if="!given?.drives?.length" class="fine">drives nothing yet</p>
      <div class="acts nodrag">
        <button class="plain" :disabled="!selection.targets.length" @click="drive(false)">drive what is selected on the Card</button>
        <button v-if="selection.targets.length > 1" class="plain" @click="drive(true)">as a row</button>
      </div>
    </template>
    <p v-if="given?.fault" class="wrong">{{ given.fault }}</p>
  </article>
</template>

<style scoped>
.slip {
  min-width: 132px;
  max-width: 220px;
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
.slip.drive {
  border-right: 4px solid var(--verdigris);
}
.slip.note {
  background: var(--picked);
}
.slip.fault {
  border-style: dashed;
  border-color: var(--oxblood);
}
h3 {
  margin: 0 0 4px;
  font: 600 13px var(--face-heading);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.port {
  position: relative;
  display: flex;
  align-items: center;
  gap: 8px;
  height: 20px;
}
.port.out {
  justify-content: flex-end;
}
.name {
  color: var(--ink2);
}
.in .value,
.in input {
  margin-left: auto;
}
input,
textarea {
  width: 64px;
  padding: 1px 4px;
  border: 1px solid var(--line);
  border-radius: 2px;
  background: var(--sunk);
  color: var(--ink);
  font-size: 11px;
}
textarea {
  width: 100%;
  resize: vertical;
}
.tag {
  width: auto;
  min-width: 20px;
  height: 15px;
  padding: 0 3px;
  display: grid;
  place-items: center;
  font-size: 9px;
  line-height: 1;
  color: var(--brassText);
  background: var(--card);
  border: 1px solid var(--brass);
  border-radius: 3px;
}
.in .tag {
  left: -14px;
}
.out .tag {
  right: -14px;
}
.value {
  max-width: 120px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.large {
  font-size: 22px;
}
.drives,
.fine,
.wrong {
  margin: 2px 0 0;
  overflow-wrap: anywhere;
}
.drives {
  color: var(--verdigris);
}
.fine {
  color: var(--ink2);
}
.wrong {
  color: var(--oxblood);
}
.acts {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 2px;
  margin-top: 4px;
}
.acts button {
  font-size: 11px;
  color: var(--brassText);
}
.acts button:disabled {
  color: var(--ink2);
}
</style>
