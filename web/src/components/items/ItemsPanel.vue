<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref } from 'vue'
import IconSearch from '~icons/tabler/search'
import { useItemCommands } from '@/composables/itemCommands'
import { useItemTree, type ItemTreeRow as Row } from '@/composables/itemTree'
import { useWindowed } from '@/composables/windowed'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import AddMenu from './AddMenu.vue'
import ItemRow from './ItemRow.vue'
import MenuList from '@/components/shared/MenuList.vue'

const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const commands = useItemCommands()
const { sought, rows, closed, fold, unfold } = useItemTree()
const menuAt = ref<{ x: number; y: number } | null>(null)
const drop = ref<{ id: Id; zone: 'before' | 'into' } | null>(null)

// Only the rows in sight are there; a tree of thousands costs no more than one of twenty.
const rowHeight = 24
const { list: windowed, containerProps, wrapperProps } = useWindowed(rows, { itemHeight: rowHeight, overscan: 8 })

/** The row that was selected last, where it is there to be spoken of. */
const active = computed(() => {
  const last = selection.ids[selection.ids.length - 1]
  return windowed.value.some((row) => row.data.id === last) ? `item-${last}` : undefined
})

/** Selects all from the row that was selected last to another one, besides what is selected. */
function pickTo(to: number): void {
  const from = rows.value.findIndex((r) => r.id === selection.ids[selection.ids.length - 1])
  const span = rows.value.slice(Math.max(0, Math.min(from, to)), Math.max(from, to) + 1).map((r) => r.id)
  selection.pickAll([...selection.ids, ...(from < to ? span : span.reverse()).filter((id) => !selection.has(id))])
}

function press(event: MouseEvent, row: Row): void {
  if (event.shiftKey && selection.ids.length) pickTo(rows.value.findIndex((r) => r.id === row.id))
  else selection.pick(row.id, event.ctrlKey || event.metaKey ? 'toggle' : 'only')
}

/** Opens the menu of what is selected, at the pointer. */
async function context(event: MouseEvent, id: Id): Promise<void> {
  event.preventDefault()
  if (!selection.has(id)) selection.pick(id)
  menuAt.value = null
  await nextTick()
  menuAt.value = { x: event.clientX, y: event.clientY }
}

function key(event: KeyboardEvent): void {
  if (event.altKey || event.ctrlKey || event.metaKey) return // those are the studio's, as a nudge is
  const last = selection.ids[selection.ids.length - 1]
  const at = rows.value.findIndex((r) => r.id === last)
  const row = rows.value[at]
  const open = row?.children && !closed.value.has(row.id)
  const parent = (): number => rows.value.slice(0, at).findLastIndex((r) => r.depth < (row?.depth ?? 0))
  const go = {
    ArrowDown: at + 1,
    ArrowUp: at < 0 ? rows.value.length - 1 : at - 1,
    Home: 0,
    End: rows.value.length - 1,
    ArrowRight: open ? at + 1 : undefined,
    ArrowLeft: row?.depth && !open ? parent() : undefined,
  }[event.key]
  if (go !== undefined) {
    const next = rows.value[Math.max(0, Math.min(rows.value.length - 1, go))]
    if (event.shiftKey && /^(Home|End)$/.test(event.key)) pickTo(go)
    else if (next) selection.pick(next.id, event.shiftKey ? 'toggle' : 'only')
  } else if (row && ((event.key === 'ArrowLeft' && open) || (event.key === 'ArrowRight' && closed.value.has(row.id)))) fold(row.id)
  else if (row && event.key === 'F2') names.get(row.id)?.edit()
  else return
  event.preventDefault()
  event.stopPropagation()
  if (go !== undefined) show(Math.max(0, Math.min(rows.value.length - 1, go)))
}

/** Scrolls a row into sight, if it is not. */
function show(index: number): void {
  const box = containerProps.ref.value
  if (!box) return
  const top = index * rowHeight
  if (top < box.scrollTop) box.scrollTop = top
  else if (top + rowHeight > box.scrollTop + box.clientHeight) box.scrollTop = top + rowHeight - box.clientHeight
}

/** Shows the row of an item, whatever is folded or sought, and gives the tree the keys. */
async function reach(id: Id): Promise<void> {
  unfold(id)
  await nextTick()
  show(rows.value.findIndex((r) => r.id === id))
  containerProps.ref.value?.focus()
}
onMounted(() => (workspace.tree = { reach, focus: () => containerProps.ref.value?.focus() }))
onBeforeUnmount(() => (workspace.tree = null))

const names = new Map<Id, InstanceType<typeof ItemRow>>()
function keep(id: Id, el: unknown): void {
  if (el) names.set(id, el as InstanceType<typeof ItemRow>)
  else names.delete(id)
}

let grabbed: Id = ''
function begin(event: DragEvent, id: Id): void {
  grabbed = id
  if (!selection.has(id)) selection.pick(id)
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
  if (id === grabbed) return
  // What is dropped on another item that is selected, too, goes there by itself.
  const moved = selection.has(id) ? [grabbed] : selection.ids
  if (zone === 'into') void doc.gesture('attach', { items: moved, parent: id })
  else void doc.gesture('order', { items: moved, parent: doc.items.get(id)?.parent ?? '', before: id })
}
</script>

<template>
  <section class="panel" aria-label="Items" data-panel="items">
    <header>
      <h2>Items</h2>
      <label class="search"
        ><IconSearch aria-hidden="true" /><input
          v-model="sought"
          type="search"
          placeholder="Search items"
          aria-label="Search items"
          @keydown.esc.stop="sought ? (sought = '') : containerProps.ref.value?.focus()"
      /></label>
      <AddMenu />
    </header>
    <p v-if="!rows.length && sought" class="empty">No item has “{{ sought }}” in its name.</p>
    <p v-else-if="!rows.length" class="empty">
      Add text, a shape, or a null for your controls with <b>+ Add</b>, or drop SVG files and images here.
    </p>
    <div
      v-bind="containerProps"
      class="list"
      role="tree"
      aria-label="Items of the composition"
      aria-multiselectable="true"
      tabindex="0"
      :aria-activedescendant="active"
      @keydown="key"
      @click.self="selection.clear"
    >
      <div v-bind="wrapperProps">
        <ItemRow
          v-for="{ data: row } in windowed"
          :id="row.id"
          :key="row.id"
          :ref="(el) => keep(row.id, el)"
          :depth="row.depth"
          :place="row.place"
          :of="row.of"
          :folded="row.children ? closed.has(row.id) : undefined"
          :class="drop?.id === row.id ? drop.zone : ''"
          @press="press($event, row)"
          @fold="fold(row.id)"
          @contextmenu="context($event, row.id)"
          @dragstart="begin($event, row.id)"
          @dragover="over($event, row.id)"
          @dragleave="drop = null"
          @drop.prevent="dropOn(row.id)"
        />
      </div>
      <div
        v-if="rows.length"
        class="tail"
        @click="selection.clear"
        @dragover.prevent
        @drop.prevent="doc.gesture('order', { items: selection.ids, parent: '', before: '' })"
      />
    </div>
    <MenuList
      v-if="menuAt"
      show
      trigger="manual"
      :x="menuAt.x"
      :y="menuAt.y"
      :options="commands.menu()"
      placement="bottom-start"
      @select="
        (key: string) => {
          menuAt = null
          commands.run(key)
        }
      "
      @clickoutside="menuAt = null"
    />
  </section>
</template>

<style scoped>
.search {
  display: flex;
  align-items: center;
  gap: 4px;
  flex: 1;
  min-width: 0;
  min-height: 24px;
  margin: 0 8px;
  color: var(--ink2);
  font-size: 12px;
  border-bottom: 1px solid transparent;
}
.search:focus-within {
  border-bottom-color: var(--brass);
}
.search input {
  width: 100%;
  min-width: 0;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  outline: none;
}
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  height: 32px;
  padding: 0 12px;
  border-bottom: 1px solid var(--line);
  flex: none;
}
h2 {
  font-size: 13px;
}
.list {
  flex: 1;
  min-height: 0;
}
.before {
  box-shadow: inset 0 2px var(--brass);
}
.into {
  box-shadow: inset 0 0 0 2px var(--brass);
  border-radius: 4px;
}
.empty {
  color: var(--ink2);
  padding: 12px;
  margin: 0;
}
.tail {
  min-height: 48px;
}
</style>
