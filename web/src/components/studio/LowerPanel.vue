<script setup lang="ts">
import { hand } from '@/composables/hand'
import { useWorkspace } from '@/stores/workspace'
import CurvesPanel from '@/components/curves/CurvesPanel.vue'
import DeskPanel from '@/components/desk/DeskPanel.vue'
import GraphPanel from '@/components/graph/GraphPanel.vue'
import NextStep from './NextStep.vue'
import PosesPanel from '@/components/desk/PosesPanel.vue'
import LedgerPanel from '@/components/ledger/LedgerPanel.vue'

/** The panel below: the Desk, curves over time, and the table of all links. */
const workspace = useWorkspace()
const tabs = [
  { key: 'desk', name: 'Desk' },
  { key: 'curves', name: 'Curves' },
  { key: 'ledger', name: 'Ledger' },
  { key: 'graph', name: 'Graph' },
] as const

/** What is chosen is seen, and not what lies over it. */
function show(tab: (typeof tabs)[number]['key']): void {
  workspace.tab = tab
  workspace.wide = workspace.posesOf = null
}

/** Arrows go from tab to tab, where they were reached by keyboard. */
function key(event: KeyboardEvent, at: number): void {
  const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: tabs.length - 1 }[event.key]
  const next = tabs[((to ?? 0) + tabs.length) % tabs.length]
  if (to === undefined || !hand.byKeyboard || !next) return
  event.preventDefault()
  event.stopPropagation()
  show(next.key)
  document.getElementById(`tab-${next.key}`)?.focus()
}
</script>

<template>
  <div class="lower">
    <div class="tabs" role="tablist" aria-label="Lower panel">
      <button
        v-for="(t, i) in tabs"
        :id="`tab-${t.key}`"
        :key="t.key"
        class="plain tab"
        role="tab"
        :tabindex="workspace.tab === t.key ? 0 : -1"
        aria-controls="lower-panel"
        :aria-selected="workspace.tab === t.key"
        :title="`${t.name} · ${i + 1}`"
        @click="show(t.key)"
        @keydown="key($event, i)"
      >
        {{ t.name }}
      </button>
    </div>
    <div
      id="lower-panel"
      class="under"
      :class="{ covered: workspace.posesOf || workspace.wide }"
      role="tabpanel"
      :aria-labelledby="`tab-${workspace.tab}`"
    >
      <DeskPanel v-show="workspace.tab === 'desk'" class="content" />
      <CurvesPanel v-if="workspace.tab === 'curves'" class="content" />
      <LedgerPanel v-if="workspace.tab === 'ledger'" class="content" />
      <GraphPanel v-if="workspace.tab === 'graph'" class="content" />
    </div>
    <NextStep />
    <PosesPanel v-if="workspace.posesOf" :item="workspace.posesOf.item" :control="workspace.posesOf.control" />
    <div v-show="workspace.wide" id="wide-formula" />
  </div>
</template>

<style scoped>
.lower {
  position: relative;
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.tabs {
  position: absolute;
  left: 8px;
  top: 0;
  height: 30px;
  display: flex;
  align-items: center;
  gap: 2px;
  z-index: 5;
}
.tab {
  font: 600 13px var(--face-heading);
  padding: 2px 8px;
  min-height: 24px;
  border-radius: 4px;
  color: var(--ink2);
}
.tab:hover {
  background: var(--picked);
}
.tab[aria-selected='true'] {
  color: var(--ink);
  border-bottom: 2px solid var(--brass);
  border-radius: 4px 4px 0 0;
}
#wide-formula {
  position: absolute;
  inset: 30px 0 0;
  z-index: 6;
  background: var(--card);
  border-top: 1px solid var(--line);
}
.under {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
}
.covered {
  visibility: hidden; /* no key gets lost in what is not seen */
}
.content > :deep(header) {
  padding-left: 270px;
}
/* Where there is no room beside the tabs, the head of what they show stands below them. */
@media (max-width: 1000px) {
  .content > :deep(header) {
    height: auto;
    min-height: 30px;
    flex-wrap: wrap;
    gap: 2px 12px;
    padding: 30px 8px 2px;
  }
}
</style>
