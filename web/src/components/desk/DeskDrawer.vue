<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { useDrawers } from '@/composables/drawers'
import type { Item, Samples } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import ControlRow from './ControlRow.vue'
import EditableName from '@/components/shared/EditableName.vue'
import PinTrack from './PinTrack.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** The controls of one item, with their tracks or, to perform on, without. */
const props = defineProps<{ item: Item; samples: Samples; steps: number; tall?: boolean }>()
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const rows = useDrawers()
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')
const open = ref(true)
const specs = computed(() => (props.item.specs ?? []).filter((s) => s.group === 'Controls'))

function add(): void {
  selection.pick(props.item.id)
  workspace.addingControl = true
}

const reset = (): void =>
  void doc.operations(...specs.value.map((s) => ({ op: 'own.set' as const, item: props.item.id, property: s.key, value: null })))

const menu = computed(() => [
  { key: 'pin', label: 'Pin drawer (Shift K)' },
  { key: 'add', label: 'New control' },
  { key: 'rename', label: 'Rename' },
  { key: 'top', label: rows.isTop(props.item.id) ? 'Don’t keep on top' : 'Keep on top' },
  { key: 'up', label: 'Move up' },
  { key: 'down', label: 'Move down' },
  { key: 'reset', label: 'Reset all to default' },
])
function run(key: string): void {
  const at = rows.drawers.value.indexOf(props.item.id)
  const acts: Record<string, () => void> = {
    pin: () => void doc.gesture('pin', { drawer: props.item.id, targets: [] }),
    add,
    rename: () => void naming.value?.edit(),
    top: () => rows.keepOnTop(props.item.id, !rows.isTop(props.item.id)),
    up: () => rows.put(props.item.id, Math.max(0, at - 1)),
    down: () => rows.put(props.item.id, at + 1),
    reset,
  }
  acts[key]?.()
}
</script>

<template>
  <section class="drawer" :class="{ tall }" :aria-label="`Drawer ${item.name}`">
    <div
      class="head"
      :class="{ over: rows.over(item.id, -1) }"
      draggable="true"
      @dragstart="rows.begin($event, item.id)"
      @dragover="rows.enter($event, item.id, -1)"
      @drop.prevent="rows.drop(item.id, -1)"
      @dragend="rows.end"
    >
      <button
        class="plain fold"
        :aria-label="open ? `Collapse ${item.name}` : `Expand ${item.name}`"
        :aria-expanded="open"
        @click="open = !open"
      >
        {{ open ? '▾' : '▸' }}
      </button>
      <span class="plate"
        ><EditableName
          ref="naming"
          label="Drawer name"
          :name="item.name"
          @rename="(name) => doc.operations({ op: 'item.set', item: item.id, name })"
      /></span>
      <span v-if="rows.isTop(item.id)" class="quiet" title="Kept on top">▴</span>
      <span class="space" />
      <button class="plain more" title="Pin every control of the drawer at this frame · Shift K" @click="run('pin')">Pin drawer</button>
      <button class="plain more" :title="`New control on ${item.name}`" @click="add">+ Control</button>
      <MenuList trigger="click" size="small" :options="menu" placement="bottom-end" @select="run">
        <button class="plain more" :aria-label="`Actions for the drawer ${item.name}`">⋯</button>
      </MenuList>
    </div>
    <div v-if="!tall" class="head track" />
    <template v-if="open">
      <template v-for="spec in specs" :key="spec.key">
        <ControlRow :item="item" :spec="spec" :tall="tall" />
        <PinTrack v-if="!tall" :item="item" :spec="spec" :samples="samples[spec.key] ?? undefined" :steps="steps" />
      </template>
    </template>
  </section>
</template>

<style scoped>
.drawer {
  display: contents;
}
.drawer.tall {
  display: block;
}
.head {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 28px;
  padding: 0 8px 0 12px;
  grid-column: 1;
  background: var(--sunk);
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.tall .head {
  border-right: 0;
}
.head.over {
  box-shadow: inset 0 2px var(--brass);
}
.track {
  grid-column: 2;
  border-right: 0;
}
.fold {
  width: 24px;
  height: 24px;
  margin: 0 -6px;
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
.space {
  flex: 1;
}
.more {
  font-size: 12px;
  color: var(--ink2);
  border-radius: 3px;
  padding: 1px 6px;
  min-height: 24px;
  opacity: 0;
}
.head:hover .more,
.head:focus-within .more,
.more[aria-expanded='true'] {
  opacity: 1;
}
.more:hover {
  background: var(--picked);
  color: var(--brassText);
}
</style>
