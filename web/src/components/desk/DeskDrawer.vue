<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { core } from '@/core/client'
import type { Item, Samples } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useTimeline } from '@/stores/timeline'
import { useWorkspace } from '@/stores/workspace'
import ControlRow from './ControlRow.vue'
import EditableName from '@/components/shared/EditableName.vue'
import PinTrack from './PinTrack.vue'

/** The controls of one item. */
const props = defineProps<{ item: Item }>()
const doc = useDocument()
const selection = useSelection()
const timeline = useTimeline()
const workspace = useWorkspace()
const open = ref(true)
const specs = computed(() => (props.item.specs ?? []).filter((s) => s.group === 'Controls'))

/** One sample for every third pixel, asked of the core when pins or the stretch in sight change. */
const samples = ref<Samples>({})
const steps = computed(() => Math.max(2, Math.round(timeline.width / 3)))
watch(
  [() => props.item, () => timeline.from, () => timeline.frames, steps],
  async () => {
    const asked = { item: props.item.id, from: timeline.from, to: timeline.from + timeline.frames, steps: steps.value }
    samples.value = (await core.ask('samples', asked)).result ?? {}
  },
  { immediate: true },
)

function add(): void {
  selection.pick(props.item.id)
  workspace.addingControl = true
}
</script>

<template>
  <div class="head">
    <button class="plain fold" :aria-label="open ? `Fold ${item.name}` : `Unfold ${item.name}`" :aria-expanded="open" @click="open = !open">
      {{ open ? '▾' : '▸' }}
    </button>
    <span class="plate"
      ><EditableName label="Drawer name" :name="item.name" @rename="(name) => doc.operations({ op: 'item.set', item: item.id, name })"
    /></span>
    <button
      class="plain more"
      title="Pin every control of the drawer at this frame · Shift K"
      @click="doc.gesture('pin', { drawer: item.id, targets: [] })"
    >
      Pin drawer
    </button>
    <button class="plain more" :title="`New control on ${item.name}`" @click="add">+ control</button>
  </div>
  <div class="head track" />
  <template v-if="open">
    <template v-for="spec in specs" :key="spec.key">
      <ControlRow :item="item" :spec="spec" />
      <PinTrack :item="item" :spec="spec" :samples="samples[spec.key] ?? undefined" :steps="steps" />
    </template>
  </template>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 26px;
  padding: 0 12px;
  background: var(--sunk);
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.track {
  border-right: 0;
}
.fold {
  width: 12px;
  font-size: 11px;
  color: var(--ink2);
}
.plate {
  font: 600 12px var(--face-heading);
  border: 1px solid var(--brass);
  border-radius: 4px;
  padding: 1px 14px;
  position: relative;
  max-width: 200px;
  background: var(--card);
  display: flex;
}
.plate::before,
.plate::after {
  content: '';
  position: absolute;
  top: 50%;
  width: 3px;
  height: 3px;
  margin-top: -1.5px;
  border-radius: 50%;
  background: var(--brass);
}
.plate::before {
  left: 5px;
}
.plate::after {
  right: 5px;
}
.more {
  font-size: 11px;
  color: var(--ink2);
  border-radius: 3px;
  padding: 1px 5px;
  opacity: 0;
}
.head:hover .more,
.more:focus-visible {
  opacity: 1;
}
.more:hover {
  background: var(--picked);
  color: var(--brassText);
}
.more:first-of-type {
  margin-left: auto;
}
</style>
