<script setup lang="ts">
import { NCheckbox } from 'naive-ui'
import { computed, ref } from 'vue'
import { short } from '@/composables/format'
import { linkOperations, useLinks } from '@/composables/links'
import { useWindowed } from '@/composables/windowed'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'
import { usePicking } from './picking'
import { useRows, type Order, type Row } from './rows'
import MenuList from '@/components/shared/MenuList.vue'

/** Every link of the composition as a row: sought, sorted, and changed many at once. */
const doc = useDocument()
const links = useLinks()

const workspace = useWorkspace()
const order = ref<Order>('target')
const { all, rows, entries, grouped } = useRows(order)
const { list: windowed, containerProps, wrapperProps, scrollTo } = useWindowed(entries, { itemHeight: 24, overscan: 20 })

const troubled = computed(() => new Map(doc.checks.map((c) => [`${c.at.item}/${c.at.property}`, c.severity])))
const states = { off: 'Off', broken: 'Error', see: 'Warning', on: 'On' }
function stateOf(r: Row): keyof typeof states {
  if (r.link.off) return 'off'
  const trouble = troubled.value.get(`${r.at.item}/${r.at.property}`)
  return trouble === 'error' ? 'broken' : trouble ? 'see' : 'on'
}
const modes: Record<string, string> = Object.fromEntries(linkOperations.map((o) => [o.value, o.label]))
const heads: { name: string; order?: Order }[] = [
  { name: 'Source', order: 'source' },
  { name: 'Type', order: 'kind' },
  { name: 'Target', order: 'target' },
  { name: 'Mode' },
  { name: 'Delay' },
  { name: 'Value' },
  { name: 'Status' },
]

function now(r: Row): string {
  const spec = doc.spec(r.at.item, r.at.property)
  if (!spec) return ''
  const values = doc.numbers(r.at.item, spec)
  const k = r.at.component ? (spec.parts ?? []).indexOf(r.at.component) : -1
  return (k >= 0 ? [values[k] ?? 0] : values).map(short).join(', ')
}

const { picked, at, pick, pickGroup, chosen, change, weigh, remove, key } = usePicking(rows, entries, scrollTo)

const sources = computed(() =>
  doc.controlled.flatMap((id) =>
    (doc.items.get(id)?.controls ?? []).map((c) => ({ key: `${id}/${c.id}`, label: `${doc.items.get(id)?.name}: ${c.name}` })),
  ),
)
function replace(key: string): void {
  const [item = '', property = ''] = key.split('/')
  change({ source: { item, property } })
}
const delays = [0, 1, 2, 3, 5, 10, 25].map((d) => ({ key: String(d), label: `${d} frames` }))
const weights = [0, 25, 50, 75, 100].map((d) => ({ key: String(d), label: `${d} %` }))
</script>

<template>
  <section class="panel" aria-label="Ledger" data-panel="ledger">
    <header>
      <input
        v-model="workspace.sought"
        type="search"
        class="seek"
        placeholder="Search links"
        aria-label="Search links by source, target or type"
      />
      <span class="quiet"
        >{{ rows.length === all.length ? (all.length === 1 ? '1 link' : `${all.length} links`) : `${rows.length} of ${all.length}`
        }}{{ chosen.length ? ` · ${chosen.length} selected` : '' }}</span
      >
      <NCheckbox v-model:checked="grouped" size="small">Group</NCheckbox>
      <template v-if="chosen.length">
        <button class="plain act" @click="change({ off: false })">On</button>
        <button class="plain act" @click="change({ off: true })">Off</button>
        <MenuList trigger="click" size="small" :options="weights" @select="(k: string) => weigh(Number(k))"
          ><button class="plain act">Weight ▾</button></MenuList
        >
        <MenuList trigger="click" size="small" :options="delays" @select="(k: string) => change({ delay: Number(k) })"
          ><button class="plain act">Delay ▾</button></MenuList
        >
        <MenuList trigger="click" size="small" scrollable style="max-height: 50vh" :options="sources" @select="replace"
          ><button class="plain act">Source ▾</button></MenuList
        >
        <button class="plain act" @click="remove">Delete</button>
      </template>
    </header>
    <div class="grid" role="grid" aria-label="Links" aria-multiselectable="true" :aria-rowcount="entries.length + 1" @keydown="key">
      <div class="row head" role="row">
        <span
          v-for="h in heads"
          :key="h.name"
          role="columnheader"
          :class="{ right: h.name === 'Value' }"
          :aria-sort="h.order && order === h.order ? 'ascending' : undefined"
        >
          <button v-if="h.order" class="plain" :aria-pressed="order === h.order" @click="order = h.order">{{ h.name }}</button>
          <template v-else>{{ h.name }}</template>
        </span>
      </div>
      <div v-bind="containerProps" class="list" role="rowgroup" tabindex="-1">
        <div v-bind="wrapperProps" role="presentation">
          <template v-for="{ data: r, index: k } in windowed" :key="r.key">
            <div v-if="'title' in r" class="row heading" role="row">
              <span role="gridcell"
                ><button class="plain" :data-entry="k" :title="`Select all links of ${r.title}`" @click="pickGroup(r)">
                  {{ r.title }} <span class="quiet">{{ r.rows.length }}</span>
                </button></span
              >
            </div>
            <div
              v-else
              class="row"
              role="row"
              :tabindex="k === at ? 0 : -1"
              :data-entry="k"
              :aria-selected="picked.has(r.key)"
              :class="{ off: r.link.off }"
              @click="pick($event, r, k)"
            >
              <span role="gridcell" class="source" :class="{ figures: links.kind(r.link.kind)?.written }" :title="r.source">{{
                r.source
              }}</span><span role="gridcell">{{ r.link.kind }}</span
              ><span role="gridcell" :title="r.target">{{ r.target }}</span
              ><span role="gridcell">{{ modes[r.link.operation ?? ''] }}</span>
              <span role="gridcell" class="figures">{{ r.link.delay ? short(r.link.delay) + ' f' : '' }}</span><span
                role="gridcell"
                class="figures right now"
                >{{ now(r) }}</span
              ><span role="gridcell" :class="stateOf(r)">{{ states[stateOf(r)] }}</span>
            </div>
          </template>
        </div>
      </div>
    </div>
    <p v-if="!all.length" class="empty">Links you make appear here.</p>
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 30px;
  padding-right: 12px;
  border-bottom: 1px solid var(--line);
  background: var(--sunk);
  flex: none;
  font-size: 12px;
}
.seek {
  width: 180px;
  height: 24px;
  font: inherit;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  padding: 1px 8px;
}
.act {
  color: var(--brassText);
  padding: 0 5px;
  border-radius: 3px;
  white-space: nowrap;
}
.act:hover {
  background: var(--picked);
}
.grid {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.list {
  flex: 1;
  min-height: 0;
  scrollbar-gutter: stable;
}
.row {
  display: grid;
  grid-template-columns: minmax(120px, 1fr) 54px minmax(140px, 1.2fr) 76px 60px minmax(90px, 0.6fr) 80px;
  gap: 10px;
  align-items: center;
  height: 24px;
  padding: 0 12px;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  cursor: default;
}
.row > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  text-align: left;
}
.head button {
  min-height: 24px;
}
.head {
  overflow: visible;
}
.row:focus-visible {
  outline: 2px solid var(--brass);
  outline-offset: -2px;
}
.row > .right {
  text-align: right;
}
.head {
  color: var(--ink2);
  font-size: 11px;
  height: 22px;
  flex: none;
  padding-right: 22px;
}
.head button[aria-pressed='true'] {
  color: var(--brassText);
  text-decoration: underline;
}
.row.heading {
  display: block;
  font: 600 12px var(--face-heading);
  background: var(--sunk);
}
.row[aria-selected='true'] {
  background: var(--picked);
}
.source {
  color: var(--brassText);
}
.now {
  color: var(--verdigris);
}
.off {
  color: var(--ink2);
}
.broken {
  color: var(--oxblood);
}
.see {
  color: var(--ochre);
}
.empty {
  color: var(--ink2);
  padding: 12px;
  margin: 0;
}
</style>
