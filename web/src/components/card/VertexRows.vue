<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Item } from '@/core/types'
import { useDocument } from '@/stores/document'
import { placed } from '@/stores/document/structure'
import PropertyRow from './PropertyRow.vue'

/** The vertices of a path or an object: each a place to drive, and its place in the composition to read. */
const props = defineProps<{ item: Item }>()
const doc = useDocument()
const open = ref(false)
const shown = ref(12)
const more = 24
const all = computed(() => (open.value ? doc.verticesOf(props.item.id) : []))
const rows = computed(() => all.value.slice(0, 2 * shown.value)) // each as its own, and as it stands in the composition
watch([rows, open], (_, __, stop) => {
  if (open.value)
    stop(
      doc.watchDerived(
        props.item.id,
        rows.value.filter((s) => !placed(s)).map((s) => s.key),
      ),
    )
})
</script>

<template>
  <h3>
    <button class="plain group" :aria-expanded="open" @click="open = !open">
      <span class="sign" aria-hidden="true">{{ open ? '▾' : '▸' }}</span>Vertices
    </button>
  </h3>
  <template v-if="open">
    <PropertyRow v-for="s in rows" :key="s.key" :spec="s" :items="[item.id]" />
    <button v-if="all.length > rows.length" class="plain action" @click="shown += more">{{ (all.length - rows.length) / 2 }} more</button>
  </template>
</template>

<style scoped>
h3 {
  font-size: 12px;
  color: var(--ink2);
  padding: 6px 12px 2px;
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
.sign {
  width: 12px;
  font-size: 11px;
}
.action {
  color: var(--brassText);
  margin-left: 50px;
  font-size: 12px;
  padding: 0 4px;
  border-radius: 3px;
}
.action:hover {
  background: var(--picked);
}
</style>
