<script setup lang="ts">
import '@vue-flow/core/dist/style.css'
import { Background } from '@vue-flow/background'
import { VueFlow, useVueFlow, type Connection, type Edge, type Node, type NodeDragEvent } from '@vue-flow/core'
import { MiniMap } from '@vue-flow/minimap'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { Ref, Slip, Wire } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import SlipCard from './SlipCard.vue'
import SlipSearch from './SlipSearch.vue'

/** The sheet of a graph: slips and cables, to be put down, moved, wired. */
const graphs = useGraphs()
const doc = useDocument()
const host = useTemplateRef<HTMLDivElement>('host')
const { fitView, screenToFlowCoordinate, getSelectedNodes, getSelectedEdges } = useVueFlow('sheet')

const nodes = computed<Node[]>(() =>
  (graphs.graph?.slips ?? []).map((s) => ({
    id: s.id,
    type: 'slip',
    position: { x: s.at[0], y: s.at[1] },
    zIndex: s.kind === 'note' ? -1 : 0,
    selected: graphs.picked.includes(s.id),
  })),
)
const whole = 'whole' // a handle without a name of its own
const edges = computed<Edge[]>(() =>
  (graphs.graph?.wires ?? []).map((w) => ({
    id: `${w.to}/${w.in}`,
    source: w.from,
    target: w.to,
    sourceHandle: graphs.slips.get(w.from)?.kind === 'words' ? w.out : whole,
    targetHandle: w.in,
    type: 'cable',
    label: graphs.slips.get(w.from)?.kind === 'words' ? '' : (w.out ?? ''),
  })),
)
const wireOf = (edge: string): Wire | undefined => graphs.graph?.wires?.find((w) => `${w.to}/${w.in}` === edge)

/** A cable between two ports: it hangs a little, as it does everywhere. */
function hanging(a: { x: number; y: number }, b: { x: number; y: number }): string {
  const reach = Math.max(40, Math.abs(b.x - a.x) / 2)
  const sag = Math.min(40, 12 + Math.abs(b.x - a.x) / 12)
  return `M${a.x} ${a.y}C${a.x + reach} ${a.y + sag} ${b.x - reach} ${b.y + sag} ${b.x} ${b.y}`
}

// ---- putting down

const searching = ref<{ x: number; y: number } | null>(null) // in the panel
let where = { x: 0, y: 0 } // on the sheet
let pending: { slip: string; port: string; out: boolean } | null = null // the cable that was let go over empty ground

function search(x: number, y: number): void {
  const box = host.value?.getBoundingClientRect()
  if (!box) return
  where = screenToFlowCoordinate({ x, y })
  searching.value = { x: Math.min(x - box.left, box.width - 310), y: Math.max(4, Math.min(y - box.top, box.height - 240)) }
}

function middle(): void {
  const box = host.value?.getBoundingClientRect()
  if (box) search(box.left + box.width / 2 - 60, box.top + box.height / 3)
}

/** The nearest place down from one where no slip lies already. */
function free(at: { x: number; y: number }): [number, number] {
  const taken = (y: number): boolean =>
    (graphs.graph?.slips ?? []).some((s) => Math.abs(s.at[0] - at.x) < 150 && Math.abs(s.at[1] - y) < 130)
  let y = at.y
  while (taken(y)) y += 30
  return [Math.round(at.x), Math.round(y)]
}

const wireOut = (slip: string, port: string): Pick<Wire, 'from' | 'out'> => ({ from: slip, ...(port !== whole && { out: port }) })

async function choose(what: Pick<Slip, 'kind' | 'text' | 'fields'>): Promise<void> {
  searching.value = null
  const from = pending
  pending = null
  const wires: Wire[] = []
  if (from?.out)
    wires.push({ ...wireOut(from.slip, from.port), to: '#0', in: what.kind === 'drive' || what.kind === 'readout' ? 'in' : '1' })
  else if (from) wires.push({ from: '#0', to: from.slip, in: from.port })
  await graphs.put([{ ...what, at: free(where) }], what.kind === 'words' || what.kind === 'note' ? [] : wires)
  await nextTick()
  host.value?.focus()
}

/** A jack that a cable was pulled from and dropped here: what it is of is read; at the right edge, driven. */
async function pluggedIn({ detail }: CustomEvent<{ refs: Ref[]; x: number; y: number }>): Promise<void> {
  const box = host.value?.getBoundingClientRect()
  const [first] = detail.refs
  if (!box || !first || !graphs.graph) return
  const at = free(screenToFlowCoordinate(detail))
  if (detail.x < box.left + (2 * box.width) / 3) {
    await graphs.put([{ kind: 'read', text: `{@${first.item}:@${first.property}}`, at }])
    return
  }
  const [slip] = await graphs.put([{ kind: 'drive', at }])
  if (slip) await doc.gesture('drive', { graph: graphs.graph.id, slip, targets: detail.refs })
}

/** Puts the slips that are picked down once more, wired among one another as they are, and to what they come from. */
async function duplicate(): Promise<void> {
  const ids = graphs.picked
  const place = new Map(ids.map((id, k) => [id, `#${k}`]))
  const wires = (graphs.graph?.wires ?? [])
    .filter((w) => place.has(w.to))
    .map((w) => ({ ...w, to: place.get(w.to) as string, from: place.get(w.from) ?? w.from }))
  const slips = ids.flatMap((id) => graphs.slips.get(id) ?? [])
  await graphs.put(
    slips.map((s) => ({ ...s, at: [s.at[0] + 40, s.at[1] + 60] as [number, number] })),
    wires,
  )
}

// ---- cables

let held: { slip: string; port: string; out: boolean } | null = null
let plugged = false
function grab(at: { nodeId?: string; handleId: string | null; handleType?: string }): void {
  plugged = false
  held = at.nodeId ? { slip: at.nodeId, port: at.handleId ?? whole, out: at.handleType === 'source' } : null
}
function plug(c: Connection): void {
  plugged = true
  void graphs.put([], [{ ...wireOut(c.source, c.sourceHandle ?? whole), to: c.target, in: c.targetHandle ?? 'in' }])
}
function drop(event?: MouseEvent | TouchEvent): void {
  const from = held
  held = null
  if (plugged || !from || !(event instanceof MouseEvent)) return
  if (event.target instanceof Element && event.target.closest('.vue-flow__node')) return
  pending = from
  search(event.clientX, event.clientY)
}

// ---- moving and removing

const moved = ({ nodes: all }: NodeDragEvent): void =>
  graphs.move(all.map((n) => ({ id: n.id, at: [Math.round(n.position.x), Math.round(n.position.y)] })))
const pick = (): void => void (graphs.picked = getSelectedNodes.value.map((n) => n.id))

function remove(): void {
  for (const edge of getSelectedEdges.value) {
    const wire = wireOf(edge.id)
    if (wire) graphs.unplug(wire)
  }
  graphs.take(getSelectedNodes.value.map((n) => n.id))
}

/** Goes from the slip that is picked along a wire, or to the one above or below it. */
function walk(key: string): boolean {
  const at = graphs.picked.length === 1 ? graphs.slips.get(graphs.picked[0] ?? '') : undefined
  const wires = graphs.graph?.wires ?? []
  if (!at) return false
  const beside = (down: boolean): string | undefined =>
    [...graphs.slips.values()]
      .filter((s) => s.id !== at.id && Math.abs(s.at[0] - at.at[0]) < 160 && s.at[1] > at.at[1] === down)
      .sort((a, b) => Math.abs(a.at[1] - at.at[1]) - Math.abs(b.at[1] - at.at[1]))[0]?.id
  const next = {
    ArrowLeft: () => wires.find((w) => w.to === at.id)?.from,
    ArrowRight: () => wires.find((w) => w.from === at.id)?.to,
    ArrowUp: () => beside(false),
    ArrowDown: () => beside(true),
  }[key]
  const id = next?.()
  if (id) graphs.picked = [id]
  return !!next
}

/** Starts a cable at the slip that is picked: what it leads to is found by typing. */
function lead(): void {
  const slip = graphs.picked[0]
  const out = graphs.given.get(slip ?? '')?.outs[0]
  if (!slip || !out) return
  middle()
  pending = { slip, port: out.key || whole, out: true }
}

/** Writes in the first field of the slip that is picked. */
const enter = (): void =>
  host.value?.querySelector<HTMLElement>(`[data-id="${CSS.escape(graphs.picked[0] ?? '')}"] :is(input, textarea, button)`)?.focus()

function keys(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).closest('input, textarea')) return
  if (event.key.startsWith('Arrow') && !event.ctrlKey && !event.shiftKey && walk(event.key)) {
    event.preventDefault()
    event.stopPropagation()
    return
  }
  if (event.key === 'd' && (event.ctrlKey || event.metaKey) && graphs.picked.length) {
    event.preventDefault()
    event.stopPropagation()
    return void duplicate()
  }
  const acts: Record<string, () => void> = {
    '/': middle,
    l: lead,
    Enter: enter,
    Escape: () => (graphs.picked.length ? (graphs.picked = []) : host.value?.blur()),
    Delete: remove,
    Backspace: remove,
    f: () => void fitView({ padding: 0.2 }),
  }
  const act = acts[event.key]
  if (!act || event.ctrlKey || event.metaKey || (event.key === 'Enter' && event.target !== host.value)) return
  event.preventDefault()
  event.stopPropagation()
  act()
}

watch(
  () => graphs.graph?.id,
  async () => {
    await nextTick()
    void fitView({ padding: 0.2, maxZoom: 1 })
  },
)
</script>

<template>
  <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions, vuejs-accessibility/no-noninteractive-tabindex -->
  <div
    ref="host"
    class="sheet"
    tabindex="0"
    role="application"
    aria-label="Sheet of the graph"
    data-sheet
    @keydown="keys"
    @jack="pluggedIn"
  >
    <VueFlow
      id="sheet"
      :nodes="nodes"
      :edges="edges"
      :min-zoom="0.1"
      :max-zoom="2"
      :delete-key-code="null"
      :pan-activation-key-code="null"
      disable-keyboard-a11y
      :zoom-on-double-click="false"
      fit-view-on-init
      @node-drag-stop="moved"
      @selection-change="pick"
      @node-click="pick"
      @pane-click="pick"
      @connect="plug"
      @connect-start="grab"
      @connect-end="drop"
      @dblclick="(e: MouseEvent) => (e.target as HTMLElement).classList.contains('vue-flow__pane') && search(e.clientX, e.clientY)"
    >
      <template #node-slip="n"><SlipCard :id="n.id" :selected="n.selected" /></template>
      <template #edge-cable="e">
        <path class="cable grip" :d="hanging({ x: e.sourceX, y: e.sourceY }, { x: e.targetX, y: e.targetY })" />
        <path class="cable" :class="{ picked: e.selected }" :d="hanging({ x: e.sourceX, y: e.sourceY }, { x: e.targetX, y: e.targetY })" />
        <text v-if="e.label" class="part figures" :x="e.sourceX + 10" :y="e.sourceY - 4">.{{ e.label }}</text>
      </template>
      <template #connection-line="c">
        <path class="cable held" :d="hanging({ x: c.sourceX, y: c.sourceY }, { x: c.targetX, y: c.targetY })" />
      </template>
      <Background :gap="24" :size="1" pattern-color="var(--line)" />
      <MiniMap v-if="nodes.length > 12" :width="120" :height="80" pannable zoomable mask-color="transparent" node-color="var(--track)" />
    </VueFlow>
    <SlipSearch v-if="searching" :at="searching" @choose="choose" @close="((searching = null), (pending = null))" />
  </div>
</template>

<style scoped>
.sheet {
  position: relative;
  flex: 1;
  min-height: 0;
  background: var(--ground);
}
.sheet:focus-visible {
  outline: 2px solid var(--brass);
  outline-offset: -2px;
}
.cable {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.5;
}
.cable.grip {
  stroke: transparent;
  stroke-width: 12;
}
.cable.picked {
  stroke-width: 3;
}
.cable.held {
  stroke-dasharray: 4 3;
}
.part {
  font-size: 10px;
  fill: var(--ink2);
}
.sheet :deep(.vue-flow__minimap) {
  background: var(--card);
  border: 1px solid var(--line);
}
</style>
