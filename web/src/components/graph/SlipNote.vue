<script setup lang="ts">
import { computed } from 'vue'
import { dragging } from '@/composables/drag'
import EditableName from '@/components/shared/EditableName.vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import SlipMenu from './SlipMenu.vue'

/** A coloured sheet behind some slips, with a title and what it says of them; they move with it. */
const props = defineProps<{ id: Id; selected?: boolean }>()
const graphs = useGraphs()
const doc = useDocument()

const slip = computed(() => graphs.slips.get(props.id))
const size = computed<[number, number]>(() => slip.value?.size ?? [260, 150])

function resize(event: PointerEvent): void {
  const s = slip.value
  if (!s) return
  const [w, h] = size.value
  const zoom = (event.currentTarget as HTMLElement).getBoundingClientRect().width / 14
  let next = size.value
  dragging(
    event,
    (dx, dy) => graphs.editing(s, { size: (next = [Math.max(120, Math.round(w + dx / zoom)), Math.max(60, Math.round(h + dy / zoom))]) }),
    (moved) => moved && graphs.edit(s, { size: next }),
    doc.cancelPreview,
  )
}
const colours = 7
const recolour = (): void => {
  if (slip.value) graphs.edit(slip.value, { label: ((slip.value.label ?? 0) + 1) % colours })
}
</script>

<template>
  <section
    v-if="slip"
    class="note"
    :class="[`label${slip.label ?? 0}`, { selected }]"
    :style="{ width: size[0] + 'px', height: size[1] + 'px' }"
    :aria-label="`Note: ${slip.title || slip.text || 'empty'}`"
    :data-slip="slip.title || 'note'"
  >
    <h3>
      <EditableName label="Title of the note" :name="slip.title || 'Note'" @rename="(title) => graphs.edit(slip!, { title })" />
      <button class="plain alone nodrag dot" aria-label="Another colour" title="Another colour" @click="recolour">◐</button>
      <SlipMenu :id="id" />
    </h3>
    <textarea
      class="nodrag nowheel"
      :value="slip.text"
      placeholder="what these slips are for"
      :aria-label="`Text of ${slip.title || 'the note'}`"
      @keydown.stop
      @change="(e) => graphs.edit(slip!, { text: (e.target as HTMLTextAreaElement).value })"
    />
    <span class="grip nodrag" title="Drag to resize" @pointerdown.stop="resize" />
  </section>
</template>

<style scoped>
.note {
  --tone: var(--brass);
  position: relative;
  display: flex;
  flex-direction: column;
  padding: 2px 10px 6px;
  border: 1px solid color-mix(in oklab, var(--tone) 40%, transparent);
  border-radius: 3px;
  background: color-mix(in oklab, var(--tone) 14%, var(--ground));
  color: var(--ink);
}
.note.selected {
  border-color: var(--brass);
}
.label1 {
  --tone: var(--oxblood);
}
.label2 {
  --tone: var(--verdigris);
}
.label3 {
  --tone: var(--ink2);
}
.label4 {
  --tone: color-mix(in oklab, var(--oxblood), var(--brass));
}
.label5 {
  --tone: color-mix(in oklab, var(--verdigris), var(--brass));
}
.label6 {
  --tone: color-mix(in oklab, var(--verdigris), var(--oxblood));
}
h3 {
  display: flex;
  align-items: center;
  gap: 6px;
  margin: 0;
  font: 600 14px var(--face-heading);
}
h3 :deep(.name) {
  flex: 1;
  min-height: 24px;
  font: inherit;
}
.dot {
  width: 24px;
  height: 24px;
  color: var(--ink2);
  font-size: 12px;
}
textarea {
  width: 100%;
  height: 36px;
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--ink);
  font: inherit;
  font-size: 12px;
  resize: none;
}
.grip {
  position: absolute;
  right: 0;
  bottom: 0;
  width: 14px;
  height: 14px;
  border-right: 3px solid color-mix(in oklab, var(--tone) 60%, transparent);
  border-bottom: 3px solid color-mix(in oklab, var(--tone) 60%, transparent);
  cursor: nwse-resize;
}
</style>
