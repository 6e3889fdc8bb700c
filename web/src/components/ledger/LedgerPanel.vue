<script setup lang="ts">
import { useVirtualList } from '@vueuse/core'
import { NCheckbox, NDropdown } from 'naive-ui'
import { computed, ref } from 'vue'
import { short } from '@/composables/format'
import { useLinks, weightKey } from '@/composables/links'
import type { Edit, Link } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { useRows, type Heading, type Order, type Row } from './rows'

/** Every link of the composition as a row: sought, sorted, and changed many at once. */
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const links = useLinks()

const workspace = useWorkspace()
const order = ref<Order>('target')
const { all, rows, entries, grouped } = useRows(order)
const { list: windowed, containerProps, wrapperProps } = useVirtualList(entries, { itemHeight: 24, overscan: 20 })

const troubled = computed(() => new Map(doc.checks.map((c) => [`${c.at.item}/${c.at.property}`, c.severity])))
function stateOf(r: Row): string {
  if (r.link.off) return 'off'
  const trouble = troubled.value.get(`${r.at.item}/${r.at.property}`)
  return trouble === 'error' ? 'broken' : trouble ? 'Warning' : 'on'
}

function now(r: Row): string {
  const spec = doc.spec(r.at.item, r.at.property)
  if (!spec) return ''
  const values = doc.numbers(r.at.item, spec)
  const k = r.at.component ? (spec.parts ?? []).indexOf(r.at.component) : -1
  return (k >= 0 ? [values[k] ?? 0] : values).map(short).join(', ')
}

// ---- picking rows, and changing them together

const picked = ref(new Set<string>())
let last = ''
function pick(event: MouseEvent, r: Row): void {
  const next = new Set(event.ctrlKey || event.metaKey || event.shiftKey ? picked.value : [])
  if (event.shiftKey && last) {
    const [a, b] = [rows.value.findIndex((x) => x.key === last), rows.value.findIndex((x) => x.key === r.key)].sort((x, y) => x - y)
    for (const x of rows.value.slice(a, (b ?? 0) + 1)) next.add(x.key)
  } else if (!next.delete(r.key)) next.add(r.key)
  last = r.key
  picked.value = next
  selection.pick(r.at.item)
  selection.pickProperty(r.at.property, false)
  wiring.editing = `${r.at.item}/${r.at.property}`
}
function pickGroup(h: Heading): void {
  picked.value = new Set(h.rows.map((r) => r.key))
}
const chosen = computed(() => rows.value.filter((r) => picked.value.has(r.key)))

/** The operation that alters a row's link, wherever it stands. */
function altered(r: Row, what: Partial<Link>): Edit {
  const link = { ...r.link, ...what }
  if (!r.spread) return { op: 'link.set', item: r.at.item, property: r.at.property, link }
  const { members: _, ...value } = r.spread
  return { op: 'spread.set', value: { ...value, link } }
}
const change = (what: Partial<Link>): void =>
  void doc.operations(...chosen.value.filter((r) => !what.source || links.kind(r.link.kind)?.sourced).map((r) => altered(r, what)))
const weigh = (value: number): void =>
  void doc.gesture('set', {
    targets: chosen.value.filter((r) => !r.spread).map((r) => ({ item: r.at.item, property: weightKey(r.link) })),
    value,
  })
const remove = (): void =>
  void doc.operations(
    ...chosen.value.map((r) =>
      r.spread
        ? { op: 'spread.remove' as const, spread: r.spread.id }
        : { op: 'link.remove' as const, item: r.at.item, property: r.at.property, link: r.link.id },
    ),
  )

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
        placeholder="find links"
        aria-label="Find links by source, target or kind"
      />
      <span class="quiet"
        >{{ rows.length === all.length ? `${all.length} links` : `${rows.length} of ${all.length}`
        }}{{ chosen.length ? ` · ${chosen.length} picked` : '' }}</span
      >
      <NCheckbox v-model:checked="grouped" size="small">in groups</NCheckbox>
      <template v-if="chosen.length">
        <button class="plain act" @click="change({ off: false })">on</button>
        <button class="plain act" @click="change({ off: true })">off</button>
        <NDropdown trigger="click" size="small" :options="weights" @select="(k: string) => weigh(Number(k))"
          ><button class="plain act">weight ▾</button></NDropdown
        >
        <NDropdown trigger="click" size="small" :options="delays" @select="(k: string) => change({ delay: Number(k) })"
          ><button class="plain act">delay ▾</button></NDropdown
        >
        <NDropdown trigger="click" size="small" scrollable style="max-height: 50vh" :options="sources" @select="replace"
          ><button class="plain act">source ▾</button></NDropdown
        >
        <button class="plain act" @click="remove">remove</button>
      </template>
    </header>
    <div class="row head">
      <button class="plain" :aria-pressed="order === 'source'" @click="order = 'source'">source</button
      ><button class="plain" :aria-pressed="order === 'kind'" @click="order = 'kind'">kind</button>
      <button class="plain" :aria-pressed="order === 'target'" @click="order = 'target'">drives</button><span>does</span><span>delay</span
      ><span class="right">value now</span><span>state</span>
    </div>
    <div v-bind="containerProps" class="list" role="grid" aria-label="Links" tabindex="0">
      <div v-bind="wrapperProps">
        <template v-for="{ data: r } in windowed" :key="r.key">
          <button v-if="'title' in r" class="plain row heading" :title="`Pick all links of ${r.title}`" @click="pickGroup(r)">
            {{ r.title }} <span class="quiet">{{ r.rows.length }}</span>
          </button>
          <div v-else class="row" role="row" :aria-selected="picked.has(r.key)" :class="{ off: r.link.off }" @click="pick($event, r)">
            <span class="source" :class="{ figures: links.kind(r.link.kind)?.written }" :title="r.source">{{ r.source }}</span><span>{{
              r.link.kind
            }}</span
            ><span>{{ r.target }}</span
            ><span>{{ r.link.operation || 'replaces' }}</span>
            <span class="figures">{{ r.link.delay ? short(r.link.delay) + ' f' : '' }}</span><span class="figures right now">{{
              now(r)
            }}</span
            ><span :class="stateOf(r).split(' ')[0]">{{ stateOf(r) }}</span>
          </div>
        </template>
      </div>
      <p v-if="!all.length" class="empty">No links yet. Pull a cable from a jack on the Desk to one on the Card, and it is listed here.</p>
    </div>
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
.list {
  flex: 1;
  min-height: 0;
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
.row > .right {
  text-align: right;
}
.head {
  color: var(--ink2);
  font-size: 11px;
  height: 22px;
  flex: none;
  padding-right: 26px;
}
.head button[aria-pressed='true'] {
  color: var(--brassText);
  text-decoration: underline;
}
.row.heading {
  display: block;
  width: 100%;
  text-align: left;
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
