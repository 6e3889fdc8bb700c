<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { NButton } from 'naive-ui'
import { onBeforeUnmount, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import BakeDialog from '@/components/dialogs/BakeDialog.vue'
import ExportDialog from '@/components/dialogs/ExportDialog.vue'
import HandOffDialog from '@/components/handoff/HandOffDialog.vue'
import BringDialog from '@/components/dialogs/BringDialog.vue'
import CableLayer from '@/components/links/CableLayer.vue'
import CardPanel from '@/components/card/CardPanel.vue'
import ItemsPanel from '@/components/items/ItemsPanel.vue'
import CableWeb from '@/components/links/CableWeb.vue'
import CoreWatch from '@/components/studio/CoreWatch.vue'
import CommandSearch from '@/components/dialogs/CommandSearch.vue'
import KeysSheet from '@/components/dialogs/KeysSheet.vue'
import InsertTimeDialog from '@/components/dialogs/InsertTimeDialog.vue'
import LimitsDialog from '@/components/dialogs/LimitsDialog.vue'
import PasteDialog from '@/components/dialogs/PasteDialog.vue'
import RecipeDialog from '@/components/dialogs/RecipeDialog.vue'
import RehearsalDialog from '@/components/dialogs/RehearsalDialog.vue'
import LowerPanel from '@/components/studio/LowerPanel.vue'
import PropertyChooser from '@/components/card/PropertyChooser.vue'
import SourceFinder from '@/components/links/SourceFinder.vue'
import SplitHandle from '@/components/shared/SplitHandle.vue'
import TopBar from '@/components/studio/TopBar.vue'
import PictureFrame from '@/components/graph/PictureFrame.vue'
import ViewportPanel from '@/components/viewport/ViewportPanel.vue'
import { useBringing } from '@/composables/bringing'
import { useSounding } from '@/composables/sounding'
import { useClipboard } from '@/composables/clipboard'
import { useKeys } from '@/composables/keys'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'

const props = defineProps<{ id: string }>()
const doc = useDocument()
const workspace = useWorkspace()
const selection = useSelection()

watch(
  () => props.id,
  (id) => {
    selection.clear()
    void doc.open(id)
  },
  { immediate: true },
)
onBeforeUnmount(() => doc.close())
useKeys()
useSounding()

// Files are brought in wherever they are dropped, and from the clipboard.
const bringing = useBringing()
const clipboard = useClipboard()
const arriving = ref(false)
function over(event: DragEvent): void {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  arriving.value = true
}
function drop(event: DragEvent): void {
  arriving.value = false
  const files = [...(event.dataTransfer?.files ?? [])]
  if (!files.length) return
  event.preventDefault()
  void bringing.bring(files)
}
useEventListener(window, 'paste', (event: ClipboardEvent) => {
  const files = [...(event.clipboardData?.files ?? [])]
  if (doc.status !== 'ready' || (event.target as HTMLElement | null)?.closest('input, textarea, [contenteditable]')) return
  if (files.length) void bringing.bring(files)
  else clipboard.paste()
})
watch(
  () => doc.name,
  (name) => (document.title = name ? `${name} · Wunderkammer` : 'Wunderkammer'),
)
</script>

<template>
  <main v-if="doc.status === 'failed'" class="failed">
    <h1>This project can't be opened</h1>
    <p>{{ doc.failure }}</p>
    <RouterLink to="/"><NButton type="primary">Back to projects</NButton></RouterLink>
  </main>
  <main
    v-else
    class="studio"
    :class="[{ arriving, early: !doc.shown, pulled: workspace.pulled }, workspace.pictureCorner.split(' ')]"
    :style="workspace.columns"
    @dragover="over"
    @dragleave.self="arriving = false"
    @drop="drop"
  >
    <TopBar class="bar" />
    <ItemsPanel class="items" />
    <SplitHandle v-model="workspace.itemsWidth" class="split1" direction="right" label="Width of Items" :min="160" :max="420" />
    <ViewportPanel class="view" />
    <PictureFrame v-if="workspace.pulled" class="view-frame" />
    <SplitHandle v-model="workspace.cardWidth" class="split2" direction="left" label="Width of the Card" :min="260" :max="520" />
    <CardPanel class="card" />
    <SplitHandle v-model="workspace.deskHeight" class="split3" direction="up" label="Height of the lower panel" :min="120" :max="560" />
    <LowerPanel class="desk" />
    <p v-if="!doc.shown" class="opening quiet" role="status">Opening the project…</p>
  </main>
  <CoreWatch />
  <CableWeb />
  <CableLayer />
  <PropertyChooser />
  <SourceFinder />
  <KeysSheet />
  <CommandSearch />
  <BakeDialog />
  <ExportDialog />
  <HandOffDialog />
  <InsertTimeDialog />
  <LimitsDialog />
  <PasteDialog />
  <RecipeDialog />
  <RehearsalDialog :project="id" />
  <BringDialog />
</template>

<style scoped>
.studio {
  height: 100%;
  display: grid;
  overflow: hidden;
  background: var(--card);
  grid-template: 44px minmax(0, 1fr) 1px var(--desk-height) / var(--items-width) 1px minmax(0, 1fr) 1px var(--card-width);
}
.arriving {
  outline: 3px solid var(--brass);
  outline-offset: -3px;
}
/* Built while the core is made ready, and shown with the first values. */
.early > :is(.card, .desk),
.early > .view > :deep(*) {
  visibility: hidden;
}
/* Said where it takes long enough to be noticed. */
.opening {
  grid-area: 2 / 3 / 3 / 4;
  place-self: center;
  animation: opening 0s 0.4s both;
}
@keyframes opening {
  from {
    visibility: hidden;
  }
}
/* The sheet of a graph in the place of the viewport, which is a small picture in its corner. */
.pulled > .items {
  grid-row-end: 5;
}
.pulled > .card {
  grid-row-end: 5;
}
.pulled > .desk {
  grid-area: 2 / 3 / 5 / 4;
}
.pulled > :is(.view, .view-frame) {
  grid-area: 2 / 3 / 5 / 4;
  place-self: end;
  margin: 0 8px 8px;
  z-index: 6;
}
.pulled > .view {
  width: var(--picture-width);
  height: calc(var(--picture-height) - 14px);
  border: 1px solid var(--line);
  border-top: 0;
}
.pulled.top > :is(.view, .view-frame) {
  align-self: start;
  margin-top: 38px; /* below the head of the sheet */
}
.pulled.top > .view {
  margin-top: 52px;
}
.pulled.left > :is(.view, .view-frame) {
  justify-self: start;
}
.pulled > .split3 {
  display: none;
}
.bar {
  grid-area: 1 / 1 / 2 / 6;
}
.items {
  grid-area: 2 / 1 / 3 / 2;
}
.split1 {
  grid-area: 2 / 2 / 3 / 3;
}
.view {
  grid-area: 2 / 3 / 3 / 4;
}
.split2 {
  grid-area: 2 / 4 / 3 / 5;
}
.card {
  grid-area: 2 / 5 / 3 / 6;
}
.split3 {
  grid-area: 3 / 1 / 4 / 6;
}
.desk {
  grid-area: 4 / 1 / 5 / 6;
}
/* A window of half the width, as at 200 %: the panels stand below each other, and the picture stays in sight. */
@media (max-width: 1000px) {
  .studio {
    overflow: auto;
    scroll-padding-top: 42vh;
    grid-template: auto 40vh 60vh minmax(80vh, max-content) / minmax(0, 2fr) minmax(0, 3fr);
  }
  .studio > :is(.split1, .split2, .split3) {
    display: none;
  }
  .studio > .bar {
    grid-area: 1 / 1 / 2 / 3;
  }
  .studio > .view {
    grid-area: 2 / 1 / 3 / 3;
    place-self: stretch;
    width: auto;
    height: auto;
    margin: 0;
    position: sticky;
    top: 0;
    z-index: 7;
  }
  .studio > .items {
    grid-area: 3 / 1 / 4 / 2;
  }
  .studio > .card {
    grid-area: 3 / 2 / 4 / 3;
  }
  .studio > .desk {
    grid-area: 4 / 1 / 5 / 3;
  }
}
.failed {
  height: 100%;
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
  text-align: center;
}
</style>
