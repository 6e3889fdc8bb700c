<script setup lang="ts">
import { computed } from 'vue'
import type { Lack } from '@/core/types'
import { useDocument } from '@/stores/document'

/** What isn't in an export as it is in the composition, by what it is, with the items that it is of. */
const props = defineProps<{ title: string; label?: string; lacks: Lack[] }>()
const emit = defineEmits<{ show: [item: string] }>()
const doc = useDocument()

/** How many of one sort are listed at once; more are unfolded. */
const few = 4
/** The items, by what is other of them. */
const sorts = computed(() => {
  const out = new Map<string, string[]>()
  for (const { item, what } of props.lacks) out.set(what, [...(out.get(what) ?? []), item])
  return [...out]
})
</script>

<template>
  <section v-if="lacks.length" class="lacks" :aria-label="label ?? title">
    <h3>{{ title }}</h3>
    <div class="list" tabindex="0" role="group" aria-label="Items">
      <component :is="items.length > few ? 'details' : 'div'" v-for="[what, items] in sorts" :key="what">
        <summary v-if="items.length > few">
          <b>{{ items.length }} items</b><span class="quiet">{{ what }}</span>
        </summary>
        <p v-for="item in items" :key="item">
          <b>{{ doc.items.get(item)?.name }}</b><span class="quiet">{{ what }}</span
          ><button class="plain action" @click="emit('show', item)">Show</button>
        </p>
      </component>
    </div>
  </section>
</template>

<style scoped>
.lacks {
  margin-top: 16px;
  border: 1px solid var(--brass);
  border-radius: 6px;
  padding: 8px 12px;
  min-width: 0;
}
h3 {
  font: inherit;
  font-size: 11px;
  margin: 0 0 4px;
}
.list {
  max-height: 132px;
  overflow: auto;
}
summary {
  display: grid;
  grid-template-columns: 1fr 1fr 60px;
  gap: 8px;
  margin-top: 4px;
  cursor: pointer;
}
summary b::before {
  content: '▸ ';
}
details[open] summary b::before {
  content: '▾ ';
}
p {
  display: grid;
  grid-template-columns: 1fr 1fr 60px;
  gap: 8px;
  margin: 0;
  align-items: center;
}
.action {
  justify-self: end;
  min-height: 24px;
  color: var(--brassText);
  padding: 0 4px;
}
</style>
