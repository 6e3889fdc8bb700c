<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useTimeline } from '@/stores/timeline'
import { useWorkspace } from '@/stores/workspace'
import ControlForm from './ControlForm.vue'
import DeskDrawer from './DeskDrawer.vue'
import PinTools from './PinTools.vue'
import TimeRuler from './TimeRuler.vue'

const doc = useDocument()
const playback = usePlayback()
const timeline = useTimeline()
const workspace = useWorkspace()
const ruler = useTemplateRef<HTMLDivElement>('ruler')
const { width } = useElementSize(ruler)
watch(width, (w) => (timeline.width = w))

const drawers = computed(() => doc.controlled.map((id) => doc.items.get(id)))

function wheel(event: WheelEvent): void {
  const left = ruler.value?.getBoundingClientRect().left ?? 0
  timeline.wheel(event, event.clientX - left)
}
</script>

<template>
  <section class="panel" aria-label="Desk" data-panel="desk">
    <header>
      <PinTools />
      <span class="space" />
      <button class="plain add" title="New control · C" @click="workspace.addingControl = true">+ control</button>
    </header>
    <div class="body" @wheel="wheel">
      <div class="corner quiet">{{ drawers.length === 1 ? '1 drawer' : `${drawers.length} drawers` }}</div>
      <div ref="ruler" class="ruler"><TimeRuler /></div>
      <DeskDrawer v-for="item in drawers" :key="item!.id" :item="item!" />
      <p v-if="!drawers.length && doc.status === 'ready'" class="empty">
        Controls live here. Make a null and give it a control, then pull a cable from the control's jack to a property on the Card.
        <button class="plain add" @click="workspace.addingControl = true">Add the first control</button>
      </p>
      <div v-if="drawers.length" class="line" aria-hidden="true" :style="{ transform: `translateX(${timeline.x(playback.frame)}px)` }" />
    </div>
    <ControlForm />
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 16px;
  height: 30px;
  padding: 0 12px;
  border-bottom: 1px solid var(--line);
  background: var(--sunk);
  flex: none;
}
.space {
  flex: 1;
}
.add {
  color: var(--brassText);
  font-size: 12px;
  padding: 2px 6px;
  border-radius: 4px;
}
.add:hover {
  background: var(--picked);
}
.body {
  position: relative;
  flex: 1;
  overflow: hidden auto;
  display: grid;
  grid-template-columns: 400px minmax(0, 1fr);
  align-content: start;
  min-height: 0;
  scrollbar-gutter: stable;
  isolation: isolate;
}
.corner {
  position: sticky;
  top: 0;
  z-index: 4;
  height: 24px;
  padding: 4px 12px;
  font-size: 11px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.ruler {
  position: sticky;
  top: 0;
  z-index: 4;
  height: 24px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
  overflow: hidden;
}
.empty {
  grid-column: 1 / 3;
  color: var(--ink2);
  padding: 16px 12px;
  margin: 0;
}
.line {
  position: absolute;
  top: 24px;
  bottom: 0;
  left: 400px;
  width: 0;
  border-left: 1px solid var(--oxblood);
  pointer-events: none;
  z-index: 3;
  min-height: 100%;
}
</style>
