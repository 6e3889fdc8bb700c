<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { useControlSets } from '@/composables/controlSets'
import { useDrawers } from '@/composables/drawers'
import { useOpenSpan } from '@/composables/openSpan'
import type { AllSamples } from '@/composables/samples'
import type { Id, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import { useLooks } from '@/stores/looks'
import ControlRow from './ControlRow.vue'
import LookStrip from './LookStrip.vue'
import EditableName from '@/components/shared/EditableName.vue'
import PinTrack from './PinTrack.vue'
import SpanStrip from './SpanStrip.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** The controls of one item, with their tracks or, to perform on, without. */
const props = defineProps<{ item: Id; samples: AllSamples; tall?: boolean }>()
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const rows = useDrawers()
const sets = useControlSets()
const looks = useLooks()
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')
const open = ref(true)
const name = computed(() => doc.items.get(props.item)?.name ?? '')
/** Those of before where they are the same, so that nothing is drawn anew when only a value is another. */
const specs = computed<Spec[]>((was) => {
  const now = (doc.items.get(props.item)?.specs ?? []).filter((s) => s.group === 'Controls')
  return was?.length === now.length && now.every((s, k) => s === was[k]) ? was : now
})

const span = useOpenSpan(() => [props.item])

function add(): void {
  selection.pick(props.item)
  workspace.addingControl = true
}

const reset = (): void =>
  void doc.operations(...specs.value.map((s) => ({ op: 'own.set' as const, item: props.item, property: s.key, value: null })))

const menu = computed(() => [
  { key: 'pin', label: 'Pin drawer (Shift K)' },
  { key: 'add', label: 'New control' },
  { key: 'rename', label: 'Rename' },
  { key: 'top', label: rows.isTop(props.item) ? 'Don’t keep on top' : 'Keep on top' },
  { key: 'up', label: 'Move up' },
  { key: 'down', label: 'Move down' },
  { key: 'time', label: 'Insert or take out time…' },
  { key: 'look', label: 'Keep a look of its controls' },
  ...sets.entries.value,
  { key: 'reset', label: 'Reset all to default' },
])
function run(key: string): void {
  if (sets.run(key, props.item)) return
  const at = rows.drawers.value.indexOf(props.item)
  const acts: Record<string, () => void> = {
    pin: () => void doc.gesture('pin', { drawer: props.item, targets: [] }),
    add,
    rename: () => void naming.value?.edit(),
    top: () => rows.keepOnTop(props.item, !rows.isTop(props.item)),
    up: () => rows.put(props.item, Math.max(0, at - 1)),
    down: () => rows.put(props.item, at + 1),
    time: () => (workspace.timing = { item: props.item }),
    look: () => void looks.keep(props.item),
    reset,
  }
  acts[key]?.()
}
</script>

<template>
  <section class="drawer" :class="{ tall }" :aria-label="`Drawer ${name}`">
    <div
      class="head"
      :class="{ over: rows.over(item, -1) }"
      draggable="true"
      @dragstart="rows.begin($event, item)"
      @dragover="rows.enter($event, item, -1)"
      @drop.prevent="rows.drop(item, -1)"
      @dragend="rows.end"
    >
      <button class="plain fold" :aria-label="open ? `Collapse ${name}` : `Expand ${name}`" :aria-expanded="open" @click="open = !open">
        {{ open ? '▾' : '▸' }}
      </button>
      <span class="plate"
        ><EditableName
          ref="naming"
          label="Drawer name"
          :name="name"
          @rename="(text) => doc.operations({ op: 'item.set', item, name: text })"
      /></span>
      <span v-if="rows.isTop(item)" class="quiet" title="Kept on top">▴</span>
      <span class="space" />
      <button class="plain more" title="Pin every control of the drawer at this frame · Shift K" @click="run('pin')">Pin drawer</button>
      <button class="plain more" :title="`New control on ${name}`" @click="add">+ Control</button>
      <MenuList trigger="click" size="small" :options="menu" placement="bottom-end" @select="run">
        <button class="plain more" :aria-label="`Actions for the drawer ${name}`">⋯</button>
      </MenuList>
    </div>
    <div v-if="!tall" class="head track" />
    <template v-if="open">
      <template v-if="looks.of(item).length">
        <LookStrip :of="item" :label="`Looks of ${name}`" />
        <div v-if="!tall" class="track" />
      </template>
      <template v-for="spec in specs" :key="spec.key">
        <ControlRow :item="item" :spec="spec" :tall="tall" />
        <PinTrack v-if="!tall" :item="item" :spec="spec" :samples="samples" />
        <SpanStrip v-if="!tall && span?.property === spec.key" v-bind="span" />
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
  border-bottom: 1px solid var(--line);
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
