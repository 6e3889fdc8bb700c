<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import IconSearch from '~icons/tabler/search'
import { useCardGroups } from '@/composables/cardGroups'
import type { Id, ItemKind, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { placed } from '@/stores/document/structure'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import AttachmentRow from './AttachmentRow.vue'
import CopiesRows from './CopiesRows.vue'
import EditableName from '@/components/shared/EditableName.vue'
import PictureRow from './PictureRow.vue'
import PieceRows from './PieceRows.vue'
import PropertyRow from './PropertyRow.vue'
import SoundRow from './SoundRow.vue'
import StopsRow from './StopsRow.vue'
import TableRow from './TableRow.vue'
import VertexRows from './VertexRows.vue'

const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const SlipAbout = defineAsyncComponent(() => import('@/components/graph/SlipAbout.vue'))

const title = computed(() => {
  const [first] = selection.items
  if (!first) return ''
  const kinds = new Set(selection.items.map((i) => i.kind))
  return selection.items.length === 1 ? first.name : `${selection.items.length} ${kinds.size === 1 ? kindOf(first.kind)?.many : 'items'}`
})

const kindOf = (kind: string) => doc.catalogue.kinds.find((k) => k.kind === kind)

const sought = ref('')
/** Selects what was found, so that L or a paste is about all of it. */
function pickFound(): void {
  selection.properties = (groups.value[0]?.[1] ?? []).map((s) => s.key)
}
const having = (key: string): Id[] => selection.items.filter((i) => doc.spec(i.id, key)).map((i) => i.id)

const groups = useCardGroups(sought)
/** Groups that are folded, by name; those that are seldom wanted begin so. */
const folded = useLocalStorage<string[]>('wunderkammer:folded', ['Gradient', 'Bend', 'Read-only'])
const fold = (group: string): void =>
  void (folded.value = folded.value.includes(group) ? folded.value.filter((g) => g !== group) : [...folded.value, group])
/** Whether something of a folded group was set, so that it is not overlooked. */
const isSet = computed(() => doc.setOf(selection.ids))
const touched = (specs: Spec[]): boolean => specs.some((s) => isSet.value.has(s.key))
const classOf = (kind: ItemKind): string => doc.kinds.get(kind)?.class ?? ''
const single = computed(() => (selection.items.length === 1 ? selection.items[0] : undefined))

// What has no slots is asked for while it is in sight.
watch(
  [() => selection.ids, () => doc.layout, folded],
  (_, __, stop) => {
    const stops = selection.items.slice(0, 1).map((item) =>
      doc.watchDerived(
        item.id,
        doc
          .specsOf(item)
          .filter((s) => !placed(s) && !folded.value.includes(s.group))
          .map((s) => s.key),
      ),
    )
    stop(() => stops.forEach((s) => s()))
  },
  { immediate: true },
)
const ids = computed<Id[]>(() => selection.items.map((i) => i.id))

const rows = useTemplateRef<HTMLElement>('rows')
/** Shows the row of a property, whatever is folded or sought, and gives it the keys. */
async function reach(key: string): Promise<void> {
  sought.value = ''
  await nextTick()
  const group = groups.value.find(([, specs]) => specs.some((s) => s.key === key))?.[0]
  if (group && folded.value.includes(group)) fold(group)
  await nextTick()
  rows.value?.querySelector<HTMLElement>(`[data-property="${CSS.escape(key)}"] .name`)?.focus()
}
onMounted(() => (workspace.card = { reach }))
onBeforeUnmount(() => (workspace.card = null))
</script>

<template>
  <section class="panel" aria-label="Card" data-panel="card">
    <header>
      <h2 v-if="selection.items.length === 1">
        <EditableName label="Item name" :name="title" @rename="(name) => doc.operations({ op: 'item.set', item: ids[0], name })" />
      </h2>
      <h2 v-else>{{ title || 'Card' }}</h2>
      <span v-if="selection.items.length === 1" class="quiet">{{ kindOf(selection.items[0]?.kind ?? '')?.name }}</span>
      <span v-else-if="selection.items.length" class="quiet">in the order you selected them</span>
    </header>
    <SlipAbout v-if="workspace.tab === 'graph'" />
    <label v-if="ids.length" class="seek"
      ><IconSearch aria-hidden="true" /><input
        v-model="sought"
        type="search"
        placeholder="Search properties"
        aria-label="Search properties of everything selected"
        @keydown.enter="pickFound"
        @keydown.esc.stop="sought = ''"
    /></label>
    <div ref="rows" class="rows">
      <p v-if="!ids.length" class="empty">
        Select an item to see its properties. To link a control, drag a cable from its jack on the Desk to a property here.
      </p>
      <template v-for="[group, specs] in groups" :key="group">
        <h3>
          <button class="plain group" :aria-expanded="!folded.includes(group)" @click="fold(group)">
            <span class="sign" aria-hidden="true">{{ folded.includes(group) ? '▸' : '▾' }}</span>{{ group
            }}<i v-if="folded.includes(group) && touched(specs)" title="Has changed values" />
          </button>
        </h3>
        <template v-if="!folded.includes(group)">
          <PictureRow
            v-if="
              single &&
              ((group === 'Shape' && classOf(single.kind) === 'pictured') || (group === 'Appearance' && classOf(single.kind) === 'solid'))
            "
            :item="single"
          />
          <AttachmentRow v-if="group === 'Parent'" :items="ids" />
          <PropertyRow
            v-for="spec in group !== 'Parent' || selection.items.some((i) => i.parent) ? specs : []"
            :key="spec.key"
            :spec="spec"
            :items="group === 'Found' ? having(spec.key) : ids"
          />
          <SoundRow v-if="group === 'Sound' && single?.kind === 'sound'" :item="single.id" :sound="single.sound" />
          <TableRow v-if="group === 'Table' && single?.kind === 'table'" :item="single.id" :table="single.table" />
          <StopsRow v-if="group === 'Gradient' && single" :item="single" />
          <CopiesRows v-if="group === 'Copies' && single" :key="single.id" :item="single" />
          <PieceRows v-if="group === 'Piece'" :items="selection.items" />
        </template>
      </template>
      <VertexRows v-if="single && (single.path || classOf(single.kind) === 'solid')" :key="single.id" :item="single" />
      <p v-if="selection.items.some((i) => i.kind === 'null' && !i.controls?.length)" class="empty">
        Nulls don't render. Press C to add a control, or drag items onto it to parent them.
      </p>
      <p v-else-if="single?.kind === 'zone'" class="empty">
        A zone acts through links: a formula with zone({{ '{' + single.name + '}' }}) is 0 outside of it and 1 deep inside. The recipe Sweep
        in (R) makes one with its links.
      </p>
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
  align-items: baseline;
  gap: 8px;
  height: 32px;
  padding: 7px 12px 0;
  border-bottom: 1px solid var(--line);
  flex: none;
  white-space: nowrap;
  overflow: hidden;
}
h2 {
  font-size: 13px;
  min-width: 0;
}
h3 {
  font-size: 12px;
  color: var(--ink2);
  padding: 6px 12px 2px;
}
.seek {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 3px 12px;
  border-bottom: 1px solid var(--line);
  color: var(--ink2);
  font-size: 12px;
  flex: none;
}
.seek input {
  flex: 1;
  min-width: 0;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  outline: none;
}
.seek:focus-within {
  box-shadow: inset 0 -1px var(--brass);
}
.quiet {
  font-size: 12px;
}
.group {
  min-height: 24px;
  font: inherit;
  color: inherit;
  display: flex;
  align-items: center;
  gap: 4px;
  margin-left: -6px;
  padding-right: 6px;
  border-radius: 3px;
}
.group:hover {
  color: var(--ink);
}
.group .sign {
  width: 12px;
  font-size: 11px;
}
.group i {
  width: 6px;
  height: 6px;
  border-radius: 3px;
  background: var(--brass);
  margin-left: 4px;
}
.rows {
  flex: 1;
  overflow: hidden auto;
  padding-bottom: 16px;
}
.empty {
  color: var(--ink2);
  padding: 10px 12px;
  margin: 0;
}
</style>
