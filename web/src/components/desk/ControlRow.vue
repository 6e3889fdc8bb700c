<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed, useTemplateRef } from 'vue'
import type { Control, Item, Ref, Spec } from '@/core/types'
import { hand } from '@/composables/hand'
import { layAt } from '@/composables/laying'
import { walk } from '@/composables/walk'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { labels } from '@/theme'
import ControlWidget from './ControlWidget.vue'
import EditableName from '@/components/shared/EditableName.vue'
import JackTag from '@/components/links/JackTag.vue'

/** One control of the Desk: jack, name, live widget, value, and how much it drives. */
const props = defineProps<{ item: Item; spec: Spec }>()
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const wiring = useWiring()
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')

const ref0 = computed<Ref>(() => ({ item: props.item.id, property: props.spec.key }))
const control = computed(() => props.item.controls?.find((c) => c.id === props.spec.key))
const drives = computed(() => doc.drives[`${props.item.id}/${props.spec.key}`] ?? 0)
const driven = computed(() => (doc.state(props.item.id, props.spec.key).links?.length ?? 0) > 0)
const picked = computed(() => selection.control?.item === props.item.id && selection.control.property === props.spec.key)

const others = (prefix: string) =>
  doc.nulls.filter((id) => id !== props.item.id).map((id) => ({ key: prefix + id, label: doc.items.get(id)?.name ?? '' }))
const menu = computed(() => [
  { key: 'edit', label: 'Settings…' },
  { key: 'rename', label: 'Rename' },
  { key: 'reach', label: 'What does it drive?' },
  { key: 'drives', label: 'Its links in the Ledger' },
  { key: 'lay', label: control.value?.laid ? 'Hide from viewport' : 'Show in viewport' },
  { key: 'copy', label: 'Copy to', children: others('bare:') },
  { key: 'wired', label: 'Copy with links to', children: others('wire:') },
  { key: 'reset', label: 'Reset to default' },
  { key: 'accent', label: 'Accent', children: ['None', ...labels].map((label, i) => ({ key: 'accent' + i, label })) },
  { key: 'up', label: 'Move up' },
  { key: 'down', label: 'Move down' },
  { key: 'remove', label: 'Remove' },
])

function move(by: number): void {
  const at = (props.item.controls ?? []).findIndex((c) => c.id === props.spec.key) + by
  if (at >= 0) void doc.operations({ op: 'control.move', item: props.item.id, control: props.spec.key, at })
}

function press(): void {
  selection.pins = []
  selection.pickControl(ref0.value)
}

const remove = (): void => void doc.gesture('remove control', { item: props.item.id, control: props.spec.key })

const set = (what: Partial<Control>): void =>
  void doc.operations({ op: 'control.set', item: props.item.id, value: { ...(control.value as Control), ...what } })

function select(key: string): void {
  const copy = /^(bare|wire):(.*)/.exec(key)
  if (copy) void doc.gesture('copy control', { item: props.item.id, control: props.spec.key, onto: copy[2], wired: copy[1] === 'wire' })
  else if (/^accent\d/.test(key)) set({ accent: Number(key.slice(6)) })
  else acts[key]?.()
}

const acts: Record<string, () => void> = {
  edit: () => (workspace.editingControl = `${props.item.id}/${props.spec.key}`),
  rename: () => void naming.value?.edit(),
  reset: () => void doc.gesture('set', { targets: [ref0.value], value: props.spec.default }),
  reach: () => void walk('reach', `What does ${props.spec.name} drive?`, ref0.value),
  lay: () => set({ laid: control.value?.laid ? undefined : layAt(doc.composition) }),
  drives: () => {
    workspace.sought = `${props.item.name}: ${props.spec.name}`
    workspace.tab = 'ledger'
  },
  up: () => move(-1),
  down: () => move(1),
  remove,
}
</script>

<template>
  <div
    class="row"
    :class="{ picked }"
    :data-control="spec.name"
    @pointerdown.capture="press"
    @focusin="hand.byKeyboard && selection.pickControl(ref0)"
    @pointerenter="wiring.hovered = ref0"
    @pointerleave="wiring.hovered = null"
  >
    <JackTag :jack="{ refs: [ref0], type: spec.type, name: spec.name }" :tag="spec.tag" :drives="drives" :driven="driven" />
    <EditableName
      ref="naming"
      class="name"
      label="Control name"
      :name="spec.name"
      :title="control?.note"
      @rename="(name) => set({ name })"
    />
    <ControlWidget :item="item" :spec="spec" :driven="driven" />
    <i v-if="control?.accent" class="accent" :style="{ background: `var(--label${control.accent})` }" />
    <span
      class="drives figures"
      :class="{ none: !drives, unknown: !doc.surveyed }"
      :title="
        drives
          ? `Drives ${drives === 1 ? '1 property' : `${drives} properties`}`
          : 'Drives Not linked: pull a cable from its jack to a property on the Card'
      "
      :aria-label="drives ? `drives ${drives}` : 'drives Not linked'"
      >{{ drives ? `▸ ${drives}` : 'Not linked' }}</span
    >
    <NDropdown trigger="click" :options="menu" placement="bottom-end" @select="select">
      <button class="plain menu" :aria-label="`Actions for ${spec.name}`">⋯</button>
    </NDropdown>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 32px minmax(60px, 1fr) 84px 78px 58px 16px;
  align-items: center;
  gap: 6px;
  height: var(--row);
  padding: 0 6px 0 12px;
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
  min-width: 0;
}
.row.picked {
  background: var(--picked);
}
.drives {
  font-size: 11px;
  color: var(--ink2);
  text-align: right;
  min-width: 28px;
  white-space: nowrap;
}
.unknown {
  visibility: hidden;
}
.drives.none {
  color: var(--ochre);
  font-family: var(--face-text);
}
.accent {
  position: absolute;
  left: 3px;
  width: 4px;
  height: 16px;
  border-radius: 2px;
}
.menu {
  border-radius: 3px;
  color: var(--ink2);
}
.menu:hover {
  background: var(--picked);
}
</style>
