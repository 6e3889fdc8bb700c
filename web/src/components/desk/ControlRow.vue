<script setup lang="ts">
import { NPopover } from 'naive-ui'
import { computed, ref, useTemplateRef } from 'vue'
import type { Id, Ref, Spec } from '@/core/types'
import { hand } from '@/composables/hand'
import { useControlMenu } from '@/composables/controlMenu'
import { useDrawers } from '@/composables/drawers'
import { useDocument } from '@/stores/document'
import { useRecording } from '@/stores/recording'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
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
const wiring = useWiring()
const rows = useDrawers()
const noted = ref(false) // the note is read
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')

const ref0 = computed<Ref>(() => ({ item: props.item, property: props.spec.key }))
const drives = computed(() => doc.drives[`${props.item}/${props.spec.key}`] ?? 0)
const state = computed(() => doc.state(props.item, props.spec.key))
const driven = computed(() => (state.value.links?.length ?? 0) > 0)
const picked = computed(() => selection.controls.some((c) => c.item === props.item && c.property === props.spec.key))

const headed = useTemplateRef<InstanceType<typeof EditableName>>('headed')
const { control, place, menu, select, set } = useControlMenu(props, {
  rename: () => void naming.value?.edit(),
  editHeading: () => void headed.value?.edit(),
})

function press(event: PointerEvent): void {
  selection.pins = []
  const more = event.ctrlKey || event.metaKey || event.shiftKey
  if (more && !(event.target as Element).closest('.called')) return // they are for the widget
  selection.pickControl(ref0.value, more ? 'toggle' : 'only')
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
  padding: 0 8px 0 20px;
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.arm {
  position: absolute;
  left: -4px;
  width: 24px;
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
