<script setup lang="ts">
import { computed } from 'vue'
import type { Id, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import AttachmentRow from './AttachmentRow.vue'
import EditableName from './EditableName.vue'
import PropertyRow from './PropertyRow.vue'

const document = useDocument()
const selection = useSelection()

const title = computed(() => {
  const [first] = selection.items
  if (!first) return ''
  const kinds = new Set(selection.items.map((i) => i.kind))
  return selection.items.length === 1 ? first.name : `${selection.items.length} ${kinds.size === 1 ? kindName(first.kind) + 's' : 'items'}`
})

function kindName(kind: string): string {
  return document.catalogue.kinds.find((k) => k.kind === kind)?.name ?? kind
}

/** The properties that all selected items have, in their groups; controls stand on the Desk. */
const groups = computed(() => {
  const [first, ...rest] = selection.items
  if (!first) return []
  const shared = document.specsOf(first).filter((s) => s.group !== 'Controls' && rest.every((item) => document.specsOf(item).some((o) => o.key === s.key && o.type === s.type)))
  const out = new Map<string, Spec[]>()
  for (const s of shared) out.set(s.group, [...(out.get(s.group) ?? []), s])
  return [...out]
})
const ids = computed<Id[]>(() => selection.items.map((i) => i.id))
</script>

<template>
  <section class="panel" aria-label="Card">
    <header>
      <h2 v-if="selection.items.length === 1"><EditableName label="Item name" :name="title" @rename="(name) => document.operations({ op: 'item.set', item: ids[0], name })" /></h2>
      <h2 v-else>{{ title || 'Card' }}</h2>
      <span v-if="selection.items.length === 1" class="quiet">{{ kindName(selection.items[0]?.kind ?? '') }}</span>
      <span v-else-if="selection.items.length" class="quiet">in picked order</span>
    </header>
    <div class="rows">
      <p v-if="!ids.length" class="empty">Select an item, in the tree or in the viewport, to see its properties here. Pull a cable from a control on the Desk to a property to wire them.</p>
      <template v-for="[group, specs] in groups" :key="group">
        <h3>{{ group }}</h3>
        <PropertyRow v-for="spec in specs" :key="spec.key" :spec="spec" :items="ids" />
      </template>
      <AttachmentRow v-if="ids.length" :items="ids" />
      <p v-if="selection.items.some((i) => i.kind === 'null' && !i.controls?.length)" class="empty">A null is never drawn. Give it controls with C, or attach items to it in the tree.</p>
    </div>
  </section>
</template>

<style scoped>
.panel { display: flex; flex-direction: column; min-height: 0; min-width: 0; }
header { display: flex; align-items: baseline; gap: 8px; height: 32px; padding: 7px 12px 0; border-bottom: 1px solid var(--line); flex: none; white-space: nowrap; overflow: hidden; }
h2 { font-size: 13px; min-width: 0; overflow: hidden; }
h3 { font-size: 12px; color: var(--ink2); padding: 6px 12px 2px; }
.quiet { font-size: 12px; }
.rows { flex: 1; overflow: hidden auto; padding-bottom: 16px; }
.empty { color: var(--ink2); padding: 10px 12px; margin: 0; }
</style>
