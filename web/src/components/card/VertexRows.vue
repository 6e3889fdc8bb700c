<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { core } from '@/core/client'
import type { Item, Spec, Vertex } from '@/core/types'
import { useDocument } from '@/stores/document'
import { placed } from '@/stores/document/structure'
import PropertyRow from './PropertyRow.vue'

/** The vertices of a path or an object: each a place to drive, and its place in the composition to read. */
const props = defineProps<{ item: Item }>()
const doc = useDocument()
const open = ref(false)
const shown = ref(12)
const vertices = shallowRef<Vertex[]>([])
const more = 24

watch([open, () => doc.layout], async () => {
  if (open.value) vertices.value = (await core.ask('vertices', props.item.id)).result ?? []
})

function spec(key: string, name: string, flat: boolean, readOnly: boolean): Spec {
  const known = props.item.specs?.find((s) => s.key === key)
  if (known) return known
  const parts = flat ? ['x', 'y'] : ['x', 'y', 'z']
  return {
    key,
    name,
    group: 'Vertices',
    type: flat ? 'point2' : 'point3',
    unit: 'px',
    default: 0,
    softMin: -500,
    softMax: 500,
    step: 1,
    column: -1,
    offset: -1,
    tag: flat ? 'xy' : 'xyz',
    parts,
    readOnly,
  }
}

const rows = computed(() =>
  vertices.value
    .slice(0, shown.value)
    .flatMap((v) => [
      spec(v.key, `vertex ${v.number}`, props.item.path === true, false),
      spec('worldV' + v.key.slice(1), `world vertex ${v.number}`, false, true),
    ]),
)
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
      <span class="sign">{{ open ? '▾' : '▸' }}</span>Vertices
    </button>
  </h3>
  <template v-if="open">
    <PropertyRow v-for="s in rows" :key="s.key" :spec="s" :items="[item.id]" />
    <button v-if="vertices.length > shown" class="plain action" @click="shown += more">{{ vertices.length - shown }} more</button>
  </template>
</template>

<style scoped>
h3 {
  font-size: 12px;
  color: var(--ink2);
  padding: 6px 12px 2px;
}
.group {
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
  font-size: 10px;
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
