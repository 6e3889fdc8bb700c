<script setup lang="ts">
import '@vue-flow/core/dist/style.css'
import { Background } from '@vue-flow/background'
import { VueFlow, useVueFlow } from '@vue-flow/core'
import { useEventListener } from '@vueuse/core'
import { MiniMap } from '@vue-flow/minimap'
import { computed, nextTick, provide, useTemplateRef, watch } from 'vue'
import type { Fit } from '@/core/types'
import { useGraphs } from '@/stores/graphs'
import { useWorkspace } from '@/stores/workspace'
import CableEdge from './CableEdge.vue'
import { hanging } from './sheet/hanging'
import { useFitting } from './sheet/fitting'
import { holding, useHand } from './sheet/hand'
import { useSheetKeys } from './sheet/keys'
import { useJacks } from './sheet/jacks'
import { useMoving } from './sheet/moving'
import { usePutting } from './sheet/putting'
import { useSheetView, whole } from './sheet/view'
import { usePicture } from './sheet/picture'
import { useSight } from './sheet/sight'
import SheetGround from './SheetGround.vue'
import SlipFrame from './SlipFrame.vue'
import SlipNode from './SlipNode.vue'
import SlipNote from './SlipNote.vue'
import SlipSearch from './SlipSearch.vue'
import WireMends from './WireMends.vue'

/** The sheet of a graph: slips and cables, to be put down, moved, wired. */
const graphs = useGraphs()
const host = useTemplateRef<HTMLDivElement>('host')
const { getSelectedNodes, getSelectedEdges, setViewport, viewport } = useVueFlow('sheet')
const fit = useFitting()
/** How large the sheet is seen, in steps: what a hand meets on it grows with them. */
const grade = computed(() => Math.max(0.25, Math.min(1, Math.floor(viewport.value.zoom * 4) / 4)))
const workspace = useWorkspace()
const view = useSheetView()
const moving = useMoving(view.wireOf)
/** A place in the window, in the panel: so that what opens there is whole. */
function inside(x: number, y: number, w: number, h: number): { x: number; y: number } {
  const box = host.value?.getBoundingClientRect() ?? new DOMRect()
  return { x: Math.max(4, Math.min(x - box.left, box.width - w)), y: Math.max(4, Math.min(y - box.top, box.height - h)) }
}
const putting = usePutting(
  () => host.value,
  inside,
  view.closing,
  (from, to) => {
    const box = host.value?.getBoundingClientRect() ?? new DOMRect()
    void hand.lead(from, to, box.left + box.width / 2, box.top + 40)
  },
)
const hand = useHand(putting.search)
provide(holding, hand)
useSight()
usePicture()
const jacks = useJacks(() => host.value, putting.free)

let begun = false
/** A sheet that was looked at before is shown as it was; else what can be read of it. */
function begin(): void {
  if (begun) return
  begun = true
  const was = graphs.looked.get(graphs.graph?.id ?? '')
  if (was) void setViewport(was)
  else fit.first()
}
watch(viewport, (at) => begun && graphs.graph && graphs.looked.set(graphs.graph.id, { ...at }), { deep: true })

// ---- picking and removing

const pick = (): void => void (graphs.picked = getSelectedNodes.value.map((n) => n.id))

function remove(): void {
  host.value?.focus()
  for (const edge of getSelectedEdges.value) {
    const wire = view.wireOf(edge.id)
    if (wire) graphs.unplug(wire)
  }
  graphs.take(getSelectedNodes.value.map((n) => n.id))
}

function close(): boolean {
  const open = hand.refusal.value !== null
  hand.refusal.value = null
  return open
}
const keys = useSheetKeys(() => host.value, view.closing, {
  fit: fit.all,
  search: putting.middle,
  lead: (slip) => putting.middle({ end: { slip, port: graphs.given.get(slip)?.outs[0]?.key || whole }, out: true }),
  pull: () => graphs.pull(graphs.picked),
  busy: putting.busy,
  remove,
  paste: putting.paste,
  nudge: moving.nudge,
  close,
})

function doubt(edge: string, fit: Fit | undefined, x: number, y: number): void {
  const wire = view.wireOf(edge)
  const box = host.value?.getBoundingClientRect()
  if (wire && fit && box) hand.refusal.value = { x: x || box.left + box.width / 2, y: y || box.top + 40, wire, fit }
}
function over(event: PointerEvent): void {
  putting.pointer.value = { x: event.clientX, y: event.clientY }
  hand.hover(event)
}

watch(
  () => graphs.wanted,
  async (wanted) => {
    if (!wanted) return
    graphs.wanted = null
    await nextTick()
    host.value?.focus()
    if (wanted === 'search') putting.middle()
  },
  { immediate: true, flush: 'post' },
)

// What has the keys may be taken off the sheet: then the sheet has them, and not what is selected elsewhere.
let had = false
useEventListener(document, 'focusin', (event) => (had = !!host.value?.contains(event.target as Node)))
watch(
  () => graphs.graph,
  () =>
    setTimeout(() => {
      if (had && document.activeElement === document.body) host.value?.focus()
    }, 30),
)

watch([() => graphs.graph?.id, () => workspace.pulled], async ([id, pulled], [wasId, wasPulled]) => {
  const was = id !== wasId && pulled === wasPulled && graphs.looked.get(id ?? '')
  await nextTick()
  if (was) void setViewport(was)
  else setTimeout(fit.first) // when the slips know how large they are
})
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
    :style="{ '--zoom': grade }"
    @keydown="keys"
    @jack="jacks"
    @pointermove="over"
    @pointerleave="putting.pointer.value = null"
    @dragover.prevent
    @drop.prevent="putting.dropped"
  >
    <VueFlow
      id="sheet"
      :nodes="view.nodes.value"
      :edges="view.edges.value"
      :min-zoom="0.1"
      :max-zoom="2"
      :delete-key-code="null"
      :pan-activation-key-code="null"
      :only-render-visible-elements="view.nodes.value.length > 60"
      disable-keyboard-a11y
      :elevate-nodes-on-select="false"
      :zoom-on-double-click="false"
      :auto-pan-speed="hand.met.value ? 0 : 15"
      @nodes-initialized="begin"
      @node-drag-start="moving.start"
      @node-drag="moving.move"
      @node-drag-stop="moving.stop"
      @selection-change="pick"
      @node-click="pick"
      @pane-click="pick"
      @connect="hand.plug"
      @connect-start="hand.grab"
      @connect-end="hand.drop"
      @dblclick="(e: MouseEvent) => (e.target as HTMLElement).classList.contains('vue-flow__pane') && putting.search(e.clientX, e.clientY)"
    >
      <template #node-slip="n">
        <SlipNode
          :id="n.id"
          :selected="n.selected"
          :ports="graphs.slips.get(n.id)?.kind === 'fold' ? view.portsOf(graphs.slips.get(n.id)!) : undefined"
        />
      </template>
      <template #node-note="n"><SlipNote :id="n.id" :selected="n.selected" /></template>
      <template #node-frame="n">
        <SlipFrame :id="n.id" :selected="n.selected" :ports="graphs.slips.get(n.id) ? view.portsOf(graphs.slips.get(n.id)!) : []" />
      </template>
      <template #edge-cable="e">
        <CableEdge
          :source-x="e.sourceX"
          :source-y="e.sourceY"
          :target-x="e.targetX"
          :target-y="e.targetY"
          :label="typeof e.label === 'string' ? e.label : ''"
          :fit="e.data.fit"
          :selected="e.selected"
          :over="moving.over.value === e.id"
          @doubt="(x, y) => doubt(e.id, e.data.fit, x, y)"
        />
      </template>
      <template #connection-line="c">
        <path class="held" :d="hanging({ x: c.sourceX, y: c.sourceY }, { x: c.targetX, y: c.targetY })" />
      </template>
      <template #zoom-pane><SheetGround :elsewhen="hand.elsewhen.value" /></template>
      <Background :gap="24" :size="1" pattern-color="var(--line)" />
      <MiniMap
        v-if="view.nodes.value.length > 12"
        :width="120"
        :height="80"
        pannable
        zoomable
        mask-color="transparent"
        node-color="var(--track)"
      />
    </VueFlow>
    <SlipSearch
      v-if="putting.searching.value"
      :at="putting.searching.value"
      :wanted="putting.wanted.value"
      :begun="putting.begun.value"
      :ports="putting.ports.value"
      :parts="putting.parts.value"
      @choose="putting.choose"
      @find="putting.find"
      @lead="putting.lead"
      @part="putting.part"
      @close="putting.close"
    />
    <WireMends
      v-if="hand.refusal.value"
      :refusal="hand.refusal.value"
      :left="inside(hand.refusal.value.x, hand.refusal.value.y, 270, 110).x"
      :top="inside(hand.refusal.value.x, hand.refusal.value.y, 270, 110).y"
      @mend="hand.mend"
      @close="((hand.refusal.value = null), host?.focus())"
    />
    <p
      v-if="hand.hint.value"
      class="hint"
      :style="{
        left: inside(hand.hint.value.x + 14, hand.hint.value.y + 14, 250, 60).x + 'px',
        top: inside(hand.hint.value.x + 14, hand.hint.value.y + 14, 250, 60).y + 'px',
      }"
    >
      {{ hand.hint.value.text }}
    </p>
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
.held {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.5;
  stroke-dasharray: 4 3;
}
.hint {
  position: absolute;
  z-index: 40;
  max-width: 240px;
  margin: 0;
  padding: 4px 8px;
  border: 1px solid var(--oxblood);
  border-radius: 3px;
  background: var(--card);
  color: var(--ink);
  font-size: 12px;
  pointer-events: none;
}
.sheet :deep(.vue-flow__node.near > .slip) {
  box-shadow:
    0 0 0 2px var(--verdigris),
    1px 2px 3px rgb(0 0 0 / 12%);
}
.sheet :deep(.vue-flow__minimap) {
  background: var(--card);
  border: 1px solid var(--line);
}
</style>
