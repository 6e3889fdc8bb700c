<script setup lang="ts">
import { NDropdown, NSelect, NSwitch } from 'naive-ui'
import { computed, useTemplateRef } from 'vue'
import type { Item, Ref, Spec, Value } from '@/core/types'
import { dialog } from '@/composables/notify'
import { steady } from '@/composables/steady'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { labels } from '@/theme'
import AngleDial from './AngleDial.vue'
import ColourField from './ColourField.vue'
import EditableName from './EditableName.vue'
import FaderBar from './FaderBar.vue'
import JackTag from './JackTag.vue'
import PointPad from './PointPad.vue'
import ValueField from './ValueField.vue'

/** One control of the Desk: jack, name, live widget, value, and how much it drives. */
const props = defineProps<{ item: Item; spec: Spec }>()
const document = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const wiring = useWiring()
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')

const ref0 = computed<Ref>(() => ({ item: props.item.id, property: props.spec.key }))
const control = computed(() => props.item.controls?.find((c) => c.id === props.spec.key))
const held = computed<number[][]>((was) => steady(was, [document.numbers(props.item.id, props.spec)]))
const numbers = computed(() => held.value[0] ?? [])
const drives = computed(() => document.drives[`${props.item.id}/${props.spec.key}`] ?? 0)
const driven = computed(() => (document.state(props.item.id, props.spec.key).links?.length ?? 0) > 0)
const picked = computed(() => selection.control?.item === props.item.id && selection.control.property === props.spec.key)
const kind = computed(() => control.value?.kind)

const preview = (value: Value, component?: string) => void document.preview('set', { targets: [{ ...ref0.value, component }], value })
const commit = (value: Value, component?: string) => void document.gesture('set', { targets: [{ ...ref0.value, component }], value })

const menu = [
  { key: 'edit', label: 'Range, unit, note …' },
  { key: 'rename', label: 'Rename' },
  { key: 'drives', label: 'What it drives' },
  { key: 'reset', label: 'Back to its default' },
  { key: 'accent', label: 'Accent', children: ['none', ...labels].map((label, i) => ({ key: 'accent' + i, label })) },
  { key: 'up', label: 'Move up' },
  { key: 'down', label: 'Move down' },
  { key: 'remove', label: 'Remove' },
]

function move(by: number): void {
  const at = (props.item.controls ?? []).findIndex((c) => c.id === props.spec.key) + by
  if (at >= 0) void document.operations({ op: 'control.move', item: props.item.id, control: props.spec.key, at })
}

function remove(): void {
  const go = (): void => void document.operations({ op: 'control.remove', item: props.item.id, control: props.spec.key })
  if (!drives.value) return go()
  dialog.warning({
    title: `Remove ${props.spec.name}?`,
    content: `It drives ${drives.value === 1 ? '1 property' : `${drives.value} properties`}, which will go back to their own values. The links are kept, so undo brings all of it back.`,
    positiveText: 'Remove', negativeText: 'Keep', onPositiveClick: go,
  })
}

function select(key: string): void {
  if (/^accent\d/.test(key)) void document.operations({ op: 'control.set', item: props.item.id, value: { ...control.value, accent: Number(key.slice(6)) } })
  else acts[key]?.()
}

const acts: Record<string, () => void> = {
  edit: () => (workspace.editingControl = `${props.item.id}/${props.spec.key}`),
  rename: () => void naming.value?.edit(),
  reset: () => commit(props.spec.default),
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
  <div class="row" :class="{ picked }" :data-control="spec.name" @pointerdown="selection.pickControl(ref0)" @pointerenter="wiring.hovered = ref0" @pointerleave="wiring.hovered = null">
    <JackTag :jack="{ refs: [ref0], type: spec.type, name: spec.name }" :tag="spec.tag" :drives="drives" :driven="driven" />
    <EditableName ref="naming" class="name" label="Control name" :name="spec.name" :title="control?.note" @rename="(name) => control && document.operations({ op: 'control.set', item: item.id, value: { ...control, name } })" />
    <div class="widget">
      <FaderBar v-if="kind === 'slider'" :spec="spec" :value="numbers[0] ?? 0" @preview="preview" @commit="commit" @cancel="document.cancelPreview" />
      <AngleDial v-else-if="kind === 'angle'" :label="spec.name" :value="numbers[0] ?? 0" @preview="preview" @commit="commit" @cancel="document.cancelPreview" />
      <ColourField v-else-if="kind === 'colour'" :label="spec.name" :value="numbers" @preview="preview" @commit="commit" />
      <PointPad v-else-if="kind === 'point'" :spec="spec" :value="numbers" @preview="preview" @commit="commit" @cancel="document.cancelPreview" />
      <NSelect v-else-if="kind === 'menu'" size="tiny" :value="numbers[0]" :options="(spec.options ?? []).map((label, value) => ({ label, value }))" :aria-label="spec.name" @update:value="(n: number) => commit(n)" />
      <NSwitch v-else size="small" :value="numbers[0] === 1" :aria-label="spec.name" @update:value="(on: boolean) => commit(on ? 1 : 0)" />
    </div>
    <div class="value" :class="{ driven }">
      <template v-if="kind === 'slider' || kind === 'angle'">
        <ValueField :label="spec.name" :value="numbers[0] ?? 0" :step="spec.step" :min="spec.min" :max="spec.max" :driven="driven" @preview="preview" @commit="commit" @cancel="document.cancelPreview" />
        <span class="unit quiet">{{ spec.unit }}</span>
      </template>
      <span v-else-if="kind === 'switch'" class="figures">{{ numbers[0] === 1 ? 'on' : 'off' }}</span>
      <template v-else-if="kind === 'point'">
        <ValueField v-for="(part, k) in spec.parts" :key="part" :label="`${spec.name} ${part}`" :value="numbers[k] ?? 0" :driven="driven" @preview="(x) => preview(x, part)" @commit="(x) => commit(x, part)" @cancel="document.cancelPreview" />
      </template>
    </div>
    <i v-if="control?.accent" class="accent" :style="{ background: `var(--label${control.accent})` }" />
    <span class="drives figures" :class="{ none: !drives }" :title="drives ? `Drives ${drives === 1 ? '1 property' : `${drives} properties`}` : 'Drives nothing yet: pull a cable from its jack to a property on the Card'" :aria-label="drives ? `drives ${drives}` : 'drives nothing yet'">{{ drives ? `▸ ${drives}` : 'nothing yet' }}</span>
    <NDropdown trigger="click" :options="menu" placement="bottom-end" @select="select">
      <button class="plain menu" :aria-label="`More about ${spec.name}`">⋯</button>
    </NDropdown>
  </div>
</template>

<style scoped>
.row { display: grid; grid-template-columns: 32px minmax(60px, 1fr) 84px 78px 58px 16px; align-items: center; gap: 6px; height: var(--row); padding: 0 6px 0 12px; border-bottom: 1px solid var(--line); border-right: 1px solid var(--line); min-width: 0; }
.row.picked { background: var(--picked); }
.widget { display: flex; align-items: center; min-width: 0; }
.widget :deep(.swatch) { width: 74px; margin-left: 5px; }
.value { display: flex; align-items: center; justify-content: flex-end; gap: 3px; min-width: 46px; }
.driven { color: var(--verdigris); }
.unit { font-size: 11px; min-width: 12px; }
.drives { font-size: 11px; color: var(--ink2); text-align: right; min-width: 28px; white-space: nowrap; }
.drives.none { color: var(--ochre); font-family: var(--face-text); }
.accent { position: absolute; left: 3px; width: 4px; height: 16px; border-radius: 2px; }
.menu { border-radius: 3px; color: var(--ink2); }
.menu:hover { background: var(--picked); }
</style>
