<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useChoosing } from '@/composables/choosing'
import { dialog } from '@/composables/notify'
import { usePosing } from '@/composables/posing'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Finds everything by its name: commands, items, controls, properties, compositions, graphs, functions of formulas. */
const doc = useDocument()
const graphs = useGraphs()
const selection = useSelection()
const workspace = useWorkspace()
const posing = usePosing()
const typed = ref('')
const field = useTemplateRef<InstanceType<typeof NInput>>('field')
const list = useTemplateRef<HTMLUListElement>('list')
const most = 60

interface Found {
  name: string
  sort: string // what it is
  more?: string // its keys, its usage
  also?: string // other words for it
  go: () => unknown
  /** Gives the keys to what was found, for who has no pointer. */
  land?: () => unknown
}
const landOn = (...selectors: string[]): void =>
  selectors
    .map((s) => document.querySelector<HTMLElement>(s))
    .find((e) => e)
    ?.focus()

function help(name: string, usage: string, text: string): void {
  dialog.info({ title: `${name} (in formulas and graphs)`, content: `${usage}: ${text}`, positiveText: 'Close', closable: false })
}

/** What is there besides properties, which are looked through only where something is typed. */
const things = computed<Found[]>(() => [
  ...workspace.commands.flatMap((c) => (c.run ? [{ name: c.what, also: c.also, sort: 'Command', more: c.keys, go: c.run }] : [])),
  ...doc.order.map((id) => ({
    name: doc.items.get(id)?.name ?? '',
    sort: 'Item',
    go: () => selection.pick(id),
    land: () => workspace.tree?.reach(id),
  })),
  ...doc.controlled.flatMap((id) =>
    (doc.items.get(id)?.controls ?? []).map((c) => ({
      name: `${doc.items.get(id)?.name}: ${c.name}`,
      sort: 'Control',
      go: () => {
        workspace.tab = 'desk'
        selection.pickControl({ item: id, property: c.id })
      },
      land: () => landOn('[data-control].picked [role=slider]', '[data-control].picked .called button'),
    })),
  ),
  ...doc.compositions.map((c) => ({ name: c.name, sort: 'Composition', go: () => doc.select(c.id) })),
  ...doc.graphs.map((g) => ({
    name: g.name,
    sort: 'Graph',
    go: () => {
      graphs.open(g.id)
      graphs.wanted = 'keys'
    },
  })),
  ...doc.graphs.flatMap((g) =>
    (g.slips ?? []).map((s) => ({
      name: `${g.name}: ${s.title || s.kind}`,
      sort: 'Slip',
      go: () => {
        graphs.open(g.id)
        graphs.picked = [s.id]
        graphs.wanted = 'keys'
      },
    })),
  ),
  ...doc.controlled.flatMap((id) =>
    (doc.items.get(id)?.controls ?? []).flatMap((c) =>
      (c.poses ?? []).map((s) => ({
        name: `Pose ${c.name}: ${s.name}`,
        sort: 'Stop',
        go: () => posing.begin({ item: id, control: c.id, stop: s.id }),
      })),
    ),
  ),
  ...doc.catalogue.recipes.map((r) => ({ name: `Recipe: ${r.name}`, sort: 'Recipe', go: () => (workspace.recipe = r.key) })),
  ...doc.catalogue.functions.map((f) => ({ name: f.name, sort: 'Help', more: f.usage, go: () => help(f.name, f.usage, f.help) })),
])
const properties = computed<Found[]>(() =>
  doc.order.slice(0, 2000).flatMap((id) => {
    const item = doc.items.get(id)
    return item
      ? doc
          .specsOf(item)
          .filter((s) => s.group !== 'Controls')
          .map((s) => ({
            name: `${item.name}: ${s.name}`,
            sort: 'Property',
            go: () => {
              selection.pick(id)
              selection.pickProperty(s.key, false)
            },
            land: () => workspace.card?.reach(s.key),
          }))
      : []
  }),
)

const found = computed<Found[]>(() => {
  if (!workspace.searching) return []
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (f: Found): boolean => words.every((w) => `${f.name} ${f.also ?? ''}`.toLowerCase().includes(w))
  const list = things.value.filter(fits)
  if (words.length && list.length < most) list.push(...properties.value.filter(fits))
  const text = typed.value.trim().toLowerCase()
  /** What is called just so comes first, then what begins so, on its own or behind its item; properties come last. */
  const rank = (f: Found): number => {
    const names = [f.name, f.name.split(': ')[1] ?? ''].map((n) => n.toLowerCase())
    return (names.includes(text) ? 0 : names.some((n) => n.startsWith(text)) ? 1 : 2) + (f.sort === 'Property' ? 3 : 0)
  }
  return (text ? list.sort((a, b) => rank(a) - rank(b)) : list).slice(0, most)
})

async function choose(f: Found | undefined): Promise<void> {
  if (!f) return
  field.value?.blur() // what fades away has the keys no longer
  workspace.searching = false
  await nextTick()
  landing = f.land && f
  await goTo(f)
}
async function goTo(f: Found): Promise<void> {
  await f.go()
  await nextTick()
  await f.land?.()
}
let landing: Found | undefined
/** A dialog that has faded gives the keys back to where they were, which may pick that: what was found is gone to again. */
async function left(): Promise<void> {
  await nextTick()
  if (landing) await goTo(landing)
  landing = undefined
}
const { at, keys } = useChoosing(
  typed,
  () => found.value,
  () => list.value,
  choose,
)
watch(
  () => workspace.searching,
  (open) => {
    if (!open) return
    typed.value = ''
    at.value = 0
    landing = undefined
    void nextTick(() => setTimeout(() => field.value?.focus()))
  },
)
</script>

<template>
  <ModalCard :show="workspace.searching" title="Search" :width="520" high @close="workspace.searching = false" @left="left">
    <NInput
      ref="field"
      v-model:value="typed"
      placeholder="Commands, items, controls, properties, help"
      :input-props="{ 'aria-label': 'Search everything', role: 'combobox', 'aria-expanded': true, 'aria-controls': 'everything-found' }"
      @keydown="keys"
    />
    <ul id="everything-found" ref="list" class="list" role="listbox" aria-label="What was found">
      <li
        v-for="(f, i) in found"
        :key="f.sort + f.name + i"
        role="option"
        :aria-selected="i === at"
        @click="choose(f)"
        @pointerenter="at = i"
      >
        <span class="name">{{ f.name }}</span><span class="quiet figures">{{ f.more }}</span
        ><span class="quiet sort">{{ f.sort }}</span>
      </li>
      <li v-if="!found.length" class="quiet" role="option" aria-selected="false">Nothing named “{{ typed }}”.</li>
    </ul>
  </ModalCard>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 360px;
  overflow: auto;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 26px;
  padding: 0 8px;
  border-radius: 4px;
  cursor: default;
}
li[aria-selected='true'] {
  background: var(--picked);
}
.name {
  flex: 1;
}
.figures {
  font-size: 11px;
}
.sort {
  font-size: 11px;
  min-width: 74px;
  text-align: right;
}
</style>
