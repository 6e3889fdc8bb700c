<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { Id, ItemKind } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import EditableName from './EditableName.vue'
import IconEye from '~icons/tabler/eye'
import IconEyeOff from '~icons/tabler/eye-off'
import IconLock from '~icons/tabler/lock'
import IconUnlock from '~icons/tabler/lock-open'
import KindIcon from './KindIcon.vue'

const document = useDocument()
const selection = useSelection()
const list = useTemplateRef<HTMLDivElement>('list')
const closed = ref(new Set<Id>())
const drop = ref<{ id: Id; zone: 'before' | 'into' } | null>(null)

interface Row {
  id: Id
  depth: number
  children: boolean
}

// A long tree starts with its branches folded.
const long = 40
watch(() => document.compositionId, () => {
  const branches = document.order.filter((_, i) => (document.depths[i + 1] ?? 0) > (document.depths[i] ?? 0))
  closed.value = new Set(document.order.length > long ? branches : [])
}, { immediate: true })

const rows = computed<Row[]>(() => {
  const out: Row[] = []
  let skip = Infinity
  document.order.forEach((id, i) => {
    const depth = document.depths[i] ?? 0
    if (depth > skip) return
    skip = closed.value.has(id) ? depth : Infinity
    out.push({ id, depth, children: (document.depths[i + 1] ?? 0) > depth })
  })
  return out
})

const adds = computed(() => document.catalogue.kinds.map((k) => ({ key: k.kind, label: k.name })))

async function add(kind: ItemKind): Promise<void> {
  const done = await document.gesture('add', { kind })
  if (done?.made?.[0]) selection.pick(done.made[0])
}

function press(event: MouseEvent, row: Row): void {
  if (event.shiftKey && selection.ids.length) {
    const from = rows.value.findIndex((r) => r.id === selection.ids[selection.ids.length - 1])
    const to = rows.value.findIndex((r) => r.id === row.id)
    const span = rows.value.slice(Math.min(from, to), Math.max(from, to) + 1).map((r) => r.id)
    selection.pickAll([...selection.ids, ...(from < to ? span : span.reverse()).filter((id) => !selection.ids.includes(id))])
  } else selection.pick(row.id, event.ctrlKey || event.metaKey ? 'toggle' : 'only')
}

function fold(id: Id): void {
  const next = new Set(closed.value)
  if (!next.delete(id)) next.add(id)
  closed.value = next
}

function key(event: KeyboardEvent): void {
  const last = selection.ids[selection.ids.length - 1]
  const at = rows.value.findIndex((r) => r.id === last)
  const row = rows.value[at]
  const go = { ArrowDown: at + 1, ArrowUp: at < 0 ? rows.value.length - 1 : at - 1 }[event.key]
  if (go !== undefined) {
    const next = rows.value[Math.max(0, Math.min(rows.value.length - 1, go))]
    if (next) selection.pick(next.id, event.shiftKey ? 'toggle' : 'only')
  } else if (row && ((event.key === 'ArrowLeft' && row.children && !closed.value.has(row.id)) || (event.key === 'ArrowRight' && closed.value.has(row.id)))) fold(row.id)
  else if (row && event.key === 'F2') list.value?.querySelector<HTMLElement>(`[data-item="${row.id}"] [data-rename]`)?.dispatchEvent(new MouseEvent('dblclick', { bubbles: true }))
  else return
  event.preventDefault()
  event.stopPropagation()
  requestAnimationFrame(() => list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' }))
}

const names = new Map<Id, InstanceType<typeof EditableName>>()
function keep(id: Id, el: unknown): void {
  if (el) names.set(id, el as InstanceType<typeof EditableName>)
  else names.delete(id)
}

function begin(event: DragEvent, id: Id): void {
  if (!selection.ids.includes(id)) selection.pick(id)
  event.dataTransfer?.setData('text/x-wunderkammer-items', selection.ids.join(' '))
}

function over(event: DragEvent, id: Id): void {
  if (!event.dataTransfer?.types.includes('text/x-wunderkammer-items')) return
  event.preventDefault()
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  drop.value = { id, zone: event.clientY - box.top < box.height / 3 ? 'before' : 'into' }
}

function dropOn(id: Id): void {
  const zone = drop.value?.zone
  drop.value = null
  const moved = selection.ids
  if (moved.includes(id)) return
  if (zone === 'into') void document.gesture('attach', { items: moved, parent: id })
  else void document.gesture('order', { items: moved, parent: document.items.get(id)?.parent ?? '', before: id })
}
</script>

<template>
  <section class="panel" aria-label="Items">
    <header>
      <h2>Items</h2>
      <NDropdown trigger="click" :options="adds" placement="bottom-end" @select="add">
        <button class="plain add">+ add</button>
      </NDropdown>
    </header>
    <div ref="list" class="list" role="tree" aria-label="Items of the composition" aria-multiselectable="true" tabindex="0" @keydown="key" @click.self="selection.clear">
      <div
        v-for="row in rows" :key="row.id" class="row" role="treeitem" :data-item="row.id" :aria-level="row.depth + 1" :aria-selected="selection.ids.includes(row.id)"
        :aria-expanded="row.children ? !closed.has(row.id) : undefined" :class="{ hidden: document.items.get(row.id)?.hidden, [drop?.id === row.id ? drop.zone : '']: drop?.id === row.id }"
        :style="{ paddingLeft: 8 + row.depth * 14 + 'px' }" draggable="true" @click="press($event, row)" @dblclick="names.get(row.id)?.edit()"
        @dragstart="begin($event, row.id)" @dragover="over($event, row.id)" @dragleave="drop = null" @drop.prevent="dropOn(row.id)"
      >
        <button v-if="row.children" class="plain fold" tabindex="-1" :aria-label="closed.has(row.id) ? 'Unfold' : 'Fold'" @click.stop="fold(row.id)">{{ closed.has(row.id) ? '▸' : '▾' }}</button>
        <span v-else class="fold" />
        <KindIcon :kind="document.items.get(row.id)?.kind ?? 'null'" :class="{ rig: document.items.get(row.id)?.controls?.length }" />
        <EditableName :ref="(el) => keep(row.id, el)" bare label="Item name" data-rename :name="document.items.get(row.id)?.name ?? ''" @rename="(name) => document.operations({ op: 'item.set', item: row.id, name })" />
        <span v-if="selection.ids.length > 1 && selection.ids.includes(row.id)" class="order figures">{{ selection.ids.indexOf(row.id) + 1 }}</span>
        <button class="plain mark" :class="{ set: document.items.get(row.id)?.locked }" tabindex="-1" :aria-label="document.items.get(row.id)?.locked ? 'Unlock' : 'Lock'" @click.stop="document.operations({ op: 'item.set', item: row.id, locked: !document.items.get(row.id)?.locked })"><IconLock v-if="document.items.get(row.id)?.locked" /><IconUnlock v-else /></button>
        <button class="plain mark" :class="{ set: document.items.get(row.id)?.hidden }" tabindex="-1" :aria-label="document.items.get(row.id)?.hidden ? 'Show' : 'Hide'" @click.stop="document.operations({ op: 'item.set', item: row.id, hidden: !document.items.get(row.id)?.hidden })"><IconEyeOff v-if="document.items.get(row.id)?.hidden" /><IconEye v-else /></button>
      </div>
      <p v-if="!rows.length" class="empty">Nothing here yet. Add a text, a shape, or a null to carry controls, with <b>+ add</b>.</p>
      <div v-else class="tail" @click="selection.clear" @dragover.prevent @drop.prevent="document.gesture('order', { items: selection.ids, parent: '', before: '' })" />
    </div>
  </section>
</template>

<style scoped>
.panel { display: flex; flex-direction: column; min-height: 0; min-width: 0; }
header { display: flex; align-items: center; justify-content: space-between; height: 32px; padding: 0 12px; border-bottom: 1px solid var(--line); flex: none; }
h2 { font-size: 13px; }
.add { color: var(--brassText); font-size: 12px; padding: 2px 6px; border-radius: 4px; }
.add:hover { background: var(--picked); }
.list { flex: 1; overflow: auto; display: flex; flex-direction: column; min-height: 0; }
.row { display: flex; align-items: center; gap: 5px; height: var(--row); padding-right: 6px; cursor: default; flex: none; content-visibility: auto; contain-intrinsic-height: 24px; }
.row:hover { background: var(--sunk); }
.row[aria-selected='true'] { background: var(--picked); }
.row.before { box-shadow: inset 0 2px var(--brass); }
.row.into { box-shadow: inset 0 0 0 2px var(--brass); border-radius: 4px; }
.row.hidden { color: var(--ink2); }
.fold { width: 12px; flex: none; font-size: 10px; color: var(--ink2); }
.rig { color: var(--brassText); }
.row > :deep(.name) { flex: 1; }
.order { border: 1px solid var(--brass); border-radius: 9px; padding: 0 6px; font-size: 10px; color: var(--brassText); }
.mark { opacity: 0; font-size: 13px; color: var(--ink2); width: 16px; display: grid; place-items: center; flex: none; }
.row:hover .mark, .mark.set, .mark:focus-visible { opacity: 1; }
.empty { color: var(--ink2); padding: 12px; margin: 0; }
.tail { flex: 1; min-height: 24px; }
</style>
