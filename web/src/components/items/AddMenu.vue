<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { NPopover } from 'naive-ui'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useBringing } from '@/composables/bringing'
import { useChoosing } from '@/composables/choosing'
import type { FileSort } from '@/composables/fileSorts'
import { menus } from '@/composables/kinds'
import { fitting } from '@/composables/pieces'
import type { Id, ItemKind } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import KindIcon from '@/components/shared/KindIcon.vue'

/** Adds items: searched by typing, named by what is typed behind the kind, and added again by Enter. */
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const bringing = useBringing()
const typed = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
const opener = useTemplateRef<HTMLButtonElement>('opener')
const list = useTemplateRef<HTMLUListElement>('list')
/** The kinds that are made of files of a sort. */
const madeOf: Partial<Record<ItemKind | 'file', FileSort>> = { sound: 'sound', table: 'table', mesh: 'model' }
let last: ItemKind | undefined // what was added last comes first

interface Choice {
  key: ItemKind | 'file'
  name: string
  /** The heading above it, if it is the first of its group. */
  group?: string
  /** The composition that a piece shows. */
  shows?: Id
  /** What the item is to be called. */
  called?: string
  count?: number
}

const kinds = computed<Choice[]>(() => {
  const all = doc.catalogue.kinds
  const first = all.filter((k) => k.kind === 'null').map((k): Choice => ({ key: k.kind, name: k.name }))
  const rest = menus.flatMap((m) =>
    all
      .filter((k) => k.menu === m.key && k.kind !== 'null' && k.kind !== 'piece')
      .map((k, i): Choice => ({ key: k.kind, name: k.name, group: i ? undefined : m.name })),
  )
  const pieces = fitting(doc.compositions, doc.compositionId).map((c, i): Choice => ({
    key: 'piece',
    name: `piece: ${c.name}`,
    shows: c.id,
    group: i ? undefined : 'Other compositions, as pieces',
  }))
  return [...first, ...rest, ...pieces, { key: 'file', name: 'Import files…', group: '' }]
})
const found = computed<Choice[]>(() => {
  const [, number, whole = ''] = /^(?:(\d+)\s*[x×]?\s+)?(.*)$/.exec(typed.value.trim()) ?? []
  const count = number ? Number(number) : undefined
  const text = whole.toLowerCase()
  if (!text) return kinds.value
  const fits = kinds.value.filter((k) => k.name.toLowerCase().includes(text)).map((k) => ({ ...k, group: undefined, count }))
  if (fits.length) return fits
  // A kind, and behind it a name.
  return kinds.value
    .filter((k) => text.startsWith(k.name.toLowerCase() + ' '))
    .map((k) => ({ ...k, group: undefined, count, called: whole.slice(k.name.length + 1) }))
})

async function add(c: Choice | undefined, stay: boolean): Promise<void> {
  if (!c) return
  if (c.key === 'file' || c.key in madeOf) {
    workspace.adding = false
    return bringing.choose({ sort: madeOf[c.key] })
  }
  if (!stay) workspace.adding = false
  last = c.key === 'piece' ? undefined : c.key
  typed.value = '' // at once: whoever goes on typing means the next one
  const done =
    c.key === 'copies' && selection.ids.length // of what is selected
      ? await doc.gesture('group', { items: selection.ids, name: c.called ?? '', kind: c.key })
      : await doc.gesture('add', { kind: c.key, name: c.called ?? '', count: c.count, shows: c.shows })
  if (done?.made) selection.pickAll(done.made)
  if (!stay || typed.value) return
  await nextTick()
  at.value = kinds.value.findIndex((k) => k.key === c.key && k.shows === c.shows)
}
const { at, keys, parts } = useChoosing(
  typed,
  () => found.value,
  () => list.value,
  (c, by) => add(c, !by.shiftKey),
)

// A press beside it closes it, also one on a field or a fader, which the library does not hear of.
const menu = useTemplateRef<HTMLElement>('menu')
useEventListener(
  () => (workspace.adding ? window : null),
  'pointerdown',
  (e) => {
    const on = e.target as Element
    if (!menu.value?.contains(on) && !on.closest('.add')) workspace.adding = false
  },
  { capture: true },
)

watch(
  () => workspace.adding,
  async (open) => {
    if (!open) {
      const had = menu.value?.contains(document.activeElement)
      field.value?.blur()
      if (had) workspace.tree?.focus() // what was added is selected there
      return
    }
    typed.value = ''
    opener.value?.scrollIntoView({ block: 'nearest' }) // the page may have been scrolled past it
    await nextTick()
    at.value = Math.max(
      0,
      found.value.findIndex((k) => k.key === last),
    )
    setTimeout(() => field.value?.focus())
  },
)
</script>

<template>
  <NPopover v-model:show="workspace.adding" trigger="click" placement="bottom-end" :show-arrow="false" style="padding: 6px; width: 230px">
    <template #trigger><button ref="opener" class="plain add" title="Add an item · A">+ Add</button></template>
    <div ref="menu" role="dialog" aria-label="Add an item">
      <input
        ref="field"
        v-model="typed"
        class="field"
        type="search"
        v-bind="parts.field.value"
        placeholder="Search, or kind and name"
        aria-label="What to add, and its name"
        @keydown="keys"
        @keydown.esc.stop="workspace.adding = false"
      />
      <ul v-show="found.length" :id="parts.list" ref="list" role="listbox" tabindex="-1" aria-label="What can be added">
        <template v-for="(c, i) in found" :key="c.key + (c.shows ?? '')">
          <li
            v-bind="parts.entry(i)"
            :class="{ begins: c.group !== undefined }"
            :data-group="c.group"
            @click="add(c, false)"
            @pointerenter="at = i"
          >
            <KindIcon v-if="c.key !== 'file'" :kind="c.key" /><span>{{ c.name }}</span
            ><b v-if="c.called">{{ c.called }}</b
            ><span v-if="c.count" class="figures">× {{ c.count }}</span>
          </li>
        </template>
      </ul>
      <p v-if="!found.length" class="quiet hint" role="status">No kind named “{{ typed }}”.</p>
      <p class="quiet hint">Enter adds and keeps this open; Shift Enter adds and closes. “20 ellipse Oval” adds twenty, side by side.</p>
    </div>
  </NPopover>
</template>

<style scoped>
.add {
  color: var(--brassText);
  font-size: 12px;
  padding: 2px 6px;
  min-height: 24px;
  border-radius: 4px;
}
.add:hover {
  background: var(--picked);
}
.field {
  width: 100%;
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--track);
  border-radius: 4px;
  padding: 2px 6px;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  max-height: min(56vh, 100vh - 210px);
  overflow: auto;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 24px;
  padding: 0 6px;
  border-radius: 4px;
  cursor: default;
}
li[aria-selected='true'] {
  background: var(--picked);
}
.begins {
  margin-top: 20px;
  position: relative;
}
.begins::before {
  content: attr(data-group) / '';
  position: absolute;
  top: -18px;
  left: 6px;
  font-size: 11px;
  color: var(--ink2);
}
@media (max-height: 520px) {
  ul {
    max-height: calc(46vh - 90px);
  }
}
.hint {
  margin: 6px 6px 0;
  font-size: 11px;
}
</style>
