<script setup lang="ts">
import { NPopover } from 'naive-ui'
import { computed, ref, useTemplateRef } from 'vue'
import type { Control, Id, Ref, Spec, Tail } from '@/core/types'
import { hand } from '@/composables/hand'
import { useDrawers } from '@/composables/drawers'
import { usePosing } from '@/composables/posing'
import { layAt } from '@/composables/laying'
import { walk } from '@/composables/walk'
import { useDocument } from '@/stores/document'
import { useBox } from '@/stores/box'
import { useRecording } from '@/stores/recording'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { labels } from '@/theme'
import BoxTag from './BoxTag.vue'
import ControlWidget from './ControlWidget.vue'
import EditableName from '@/components/shared/EditableName.vue'
import PinToggle from '@/components/shared/PinToggle.vue'
import JackTag from '@/components/links/JackTag.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** One control of the Desk: jack with the count of what it drives, name, live widget, value, and whether a pin is here. */
const props = defineProps<{ item: Id; spec: Spec; tall?: boolean }>()
const doc = useDocument()
const selection = useSelection()
const recording = useRecording()
const workspace = useWorkspace()
const wiring = useWiring()
const box = useBox()
const rows = useDrawers()
const posing = usePosing()
const noted = ref(false) // the note is read
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')

const ref0 = computed<Ref>(() => ({ item: props.item, property: props.spec.key }))
const control = computed(() => doc.items.get(props.item)?.controls?.find((c) => c.id === props.spec.key))
const drives = computed(() => doc.drives[`${props.item}/${props.spec.key}`] ?? 0)
const state = computed(() => doc.state(props.item, props.spec.key))
const driven = computed(() => (state.value.links?.length ?? 0) > 0)
const picked = computed(() => selection.controls.some((c) => c.item === props.item && c.property === props.spec.key))

const headed = useTemplateRef<InstanceType<typeof EditableName>>('headed')
async function head(heading: string | undefined): Promise<void> {
  await doc.operations({ op: 'control.set', item: props.item, value: { ...(control.value as Control), heading } })
  if (heading) await headed.value?.edit()
}

const others = (prefix: string) =>
  doc.nullNames.filter(({ id, copied }) => !copied && id !== props.item).map(({ id, name }) => ({ key: prefix + id, label: name }))
/** What there is to do with the stops of the control. */
const poses = computed(() => {
  const c = control.value
  if (!c || !['fader', 'choice', 'switch'].includes(c.kind)) return []
  if (!c.poses?.length) return [{ key: 'poses', label: 'Give it poses' }]
  const turn = { fader: 'Turn into a choice', choice: 'Turn into a fader' }[c.kind as string]
  return [
    { key: 'pose', label: 'Pose', children: c.poses.map((s) => ({ key: 'pose:' + s.id, label: s.name })) },
    ...(c.kind === 'switch' ? [] : [{ key: 'stop', label: 'Add stop here' }]),
    { key: 'moves', label: 'Stops, and what they move' },
    ...(turn ? [{ key: 'turn', label: turn }] : []),
  ]
})
const self = computed(() => ({ item: props.item, control: props.spec.key }))
/** How it goes on behind its last pin; null where it has none. */
const beyond = computed(() => (state.value.pins?.length ? (state.value.beyond ?? '') : null))
const tails: [Tail, string][] = [
  ['', 'Hold'],
  ['repeat', 'Repeat'],
  ['mirror', 'There and back'],
  ['onward', 'Repeat, going on from there'],
]
const menu = computed(() => [
  { key: 'edit', label: 'Settings…' },
  { key: 'rename', label: 'Rename' },
  { key: 'head', label: control.value?.heading ? 'Remove heading' : 'Add heading above' },
  ...poses.value,
  { key: 'reach', label: 'What does it drive?' },
  { key: 'drives', label: 'Its links in the Ledger' },
  { key: 'lay', label: control.value?.laid ? 'Hide from viewport' : 'Show in viewport' },
  { key: 'into', label: 'Move to', children: others('into:') },
  { key: 'copy', label: 'Copy to', children: others('bare:') },
  { key: 'wired', label: 'Copy with links to', children: others('wire:') },
  ...(beyond.value !== null
    ? [
        {
          key: 'beyond',
          label: 'After the last pin',
          children: tails.map(([key, label]) => ({ key: 'tail:' + key, label: label + (beyond.value === key ? ' ✓' : '') })),
        },
      ]
    : []),
  ...(box.boundTo(ref0.value).length ? [{ key: 'unbind', label: 'Unbind from the box' }] : []),
  { key: 'reset', label: 'Reset to default' },
  { key: 'accent', label: 'Accent', children: ['None', ...labels].map((label, i) => ({ key: 'accent' + i, label })) },
  { key: 'up', label: 'Move up' },
  { key: 'down', label: 'Move down' },
  { key: 'remove', label: 'Remove' },
])

const place = computed(() => (doc.items.get(props.item)?.controls ?? []).findIndex((c) => c.id === props.spec.key))
function move(at: number, onto = props.item): void {
  void doc.gesture('move control', { item: props.item, control: props.spec.key, onto, at })
}

function press(event: PointerEvent): void {
  selection.pins = []
  const more = event.ctrlKey || event.metaKey || event.shiftKey
  if (more && !(event.target as Element).closest('.called')) return // they are for the widget
  selection.pickControl(ref0.value, more ? 'toggle' : 'only')
}

const remove = (): void => void doc.gesture('remove controls', { controls: [{ item: props.item, property: props.spec.key }] })

const set = (what: Partial<Control>): void =>
  void doc.operations({ op: 'control.set', item: props.item, value: { ...(control.value as Control), ...what } })

function select(key: string): void {
  const copy = /^(bare|wire):(.*)/.exec(key)
  if (key.startsWith('pose:')) void posing.begin({ ...self.value, stop: key.slice(5) })
  else if (key.startsWith('into:')) move(-1, key.slice(5))
  else if (copy) void doc.gesture('copy control', { item: props.item, control: props.spec.key, onto: copy[2], wired: copy[1] === 'wire' })
  else if (key.startsWith('tail:')) void doc.operations({ op: 'pins.beyond', ...ref0.value, beyond: key.slice(5) as Tail })
  else if (/^accent\d/.test(key)) set({ accent: Number(key.slice(6)) })
  else acts[key]?.()
}

const acts: Record<string, () => void> = {
  edit: () => (workspace.editingControl = `${props.item}/${props.spec.key}`),
  rename: () => void naming.value?.edit(),
  unbind: () => box.unbind(ref0.value),
  reset: () => void doc.gesture('set', { targets: [ref0.value], value: props.spec.default }),
  reach: () => void walk('reach', `What does ${props.spec.name} drive?`, ref0.value),
  lay: () => set({ laid: control.value?.laid ? undefined : layAt(doc.composition) }),
  drives: () => {
    workspace.sought = `${doc.items.get(props.item)?.name}: ${props.spec.name}`
    workspace.tab = 'ledger'
  },
  poses: async () => {
    if (await doc.gesture('give poses', self.value)) workspace.posesOf = self.value
  },
  stop: () => void doc.gesture('add stop', self.value),
  moves: () => (workspace.posesOf = self.value),
  turn: () => void doc.gesture('turn poses', { ...self.value, kind: control.value?.kind === 'fader' ? 'choice' : 'fader' }),
  head: () => head(control.value?.heading ? undefined : 'Heading'),
  up: () => move(Math.max(0, place.value - 1)),
  down: () => move(place.value + 1),
  remove,
}
</script>

<template>
  <h4 v-if="control?.heading" class="heading">
    <EditableName ref="headed" label="Heading" :name="control.heading" @rename="(heading) => set({ heading })" />
  </h4>
  <div
    class="row"
    :class="{ picked, tall, over: rows.over(item, place) }"
    :data-control="spec.name"
    @pointerdown.capture="press"
    @focusin="hand.byKeyboard && selection.pickControl(ref0)"
    @pointerenter="wiring.hovered = ref0"
    @pointerleave="wiring.hovered = null"
    @dragover="rows.enter($event, item, place)"
    @drop.prevent="rows.drop(item, place)"
  >
    <button
      class="plain arm"
      :class="{ on: recording.isArmed(ref0) }"
      :aria-pressed="recording.isArmed(ref0)"
      :aria-label="`Arm ${spec.name} for recording`"
      :title="recording.isArmed(ref0) ? 'Armed: it is recorded' : 'Arm for recording'"
      @click="recording.arm(ref0)"
    >
      <i />
    </button>
    <JackTag
      :jack="{ refs: [ref0], type: spec.type, name: spec.name }"
      :tag="spec.tag"
      :drives="drives"
      :driven="driven"
      :known="doc.surveyed"
    />
    <span
      class="called"
      draggable="true"
      @dragstart="rows.begin($event, item, spec.key)"
      @dragend="rows.end"
      @pointerenter="noted = true"
      @pointerleave="noted = false"
      @focusin="noted = hand.byKeyboard"
      @focusout="noted = false"
    >
      <EditableName ref="naming" label="Control name" :name="spec.name" @rename="(name) => set({ name })" />
      <i v-if="control?.accent" class="accent" :style="{ background: `var(--label${control.accent})` }" />
      <BoxTag :target="ref0" />
      <NPopover v-if="control?.note" class="passive" trigger="manual" :show="noted" style="max-width: 320px">
        <template #trigger><span class="note" aria-hidden="true">¶</span></template>
        {{ control.note }}
      </NPopover>
      <span v-if="control?.note" class="hidden-label">{{ control.note }}</span>
      <MenuList trigger="click" :options="menu" placement="bottom-end" @select="select">
        <button class="plain menu" :aria-label="`Actions for ${spec.name}`">⋯</button>
      </MenuList>
    </span>
    <ControlWidget :item="item" :spec="spec" :driven="driven" :tall="tall" />
    <PinToggle :refs="[ref0]" :name="spec.name" always />
  </div>
</template>

<style scoped>
.row {
  grid-column: 1;
  display: grid;
  grid-template-columns: 54px minmax(0, 1fr) minmax(186px, 44%) 72px 22px;
  align-items: center;
  gap: 4px;
  position: relative;
  min-height: 26px;
  padding: 0 8px 0 14px;
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.arm {
  position: absolute;
  left: 0;
  width: 14px;
  height: 24px;
  display: grid;
  place-items: center;
  opacity: 0;
}
.row:hover .arm,
.arm:focus-visible,
.arm.on {
  opacity: 1;
}
.arm i {
  width: 8px;
  height: 8px;
  border: 1px solid var(--oxblood);
  border-radius: 50%;
}
.arm.on i {
  background: var(--oxblood);
}
.row.tall {
  break-inside: avoid;
  min-height: 40px;
  font-size: 14px;
  border-right: 0;
}
.row.picked {
  background: var(--picked);
}
.row.over {
  box-shadow: inset 0 2px var(--brass);
}
.heading {
  grid-column: 1;
  margin: 0;
  padding: 6px 12px 2px;
  font: 600 12px var(--face-heading);
  color: var(--ink2);
  border-right: 1px solid var(--line);
  display: flex;
}
.called {
  position: relative;
  display: flex;
  align-items: center;
  gap: 3px;
  min-width: 0;
  height: 100%;
}
.accent {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  flex: none;
}
.note {
  color: var(--verdigris);
  font-size: 11px;
  width: 10px;
}
/* Over the end of the name, while the row is in the hand. */
.menu {
  position: absolute;
  right: -4px;
  width: 24px;
  height: 24px;
  border-radius: 3px;
  color: var(--ink);
  background: var(--card);
  opacity: 0;
}
.picked .menu {
  background: var(--picked);
}
.row:hover .menu,
.row:focus-within .menu,
.menu[aria-expanded='true'] {
  opacity: 1;
}
.menu:hover {
  background: var(--picked);
}
</style>
