<script setup lang="ts">
import { computed, ref } from 'vue'
import { useOffers } from '@/composables/offers'
import type { Control, Id } from '@/core/types'
import { useDocument } from '@/stores/document'

/** The controls of all drawers, to be ticked. */
const doc = useDocument()
const offers = useOffers()
const sought = ref('')

interface Drawer {
  item: Id
  name: string
  controls: Control[]
}
const drawers = computed<Drawer[]>(() => {
  const words = sought.value.trim().toLowerCase()
  return doc.controlled
    .map((item) => ({ item, name: doc.items.get(item)?.name ?? '', controls: doc.items.get(item)?.controls ?? [] }))
    .map((d) => ({ ...d, controls: d.controls.filter((c) => !words || `${d.name} ${c.name}`.toLowerCase().includes(words)) }))
    .filter((d) => d.controls.length)
})
/** Whoever gets a control that links drive would move nothing. */
const driven = (item: Id, c: Control): boolean => !!doc.state(item, c.id).links?.some((l) => !l.off)
const left = (d: Drawer): Control[] => d.controls.filter((c) => !offers.of(d.item, c.id) && !driven(d.item, c))

function toggle(item: Id, c: Control): void {
  const offer = offers.of(item, c.id)
  void (offer ? offers.withdraw(offer.id) : offers.hand(item, [c.id]))
}
</script>

<template>
  <div class="sources" role="group" aria-label="Controls">
    <input
      v-model="sought"
      class="seek"
      type="search"
      placeholder="Search controls"
      aria-label="Search controls"
      @keydown.esc="(e) => sought && (e.stopPropagation(), (sought = ''))"
    />
    <p v-if="!doc.controlled.length" class="quiet">This composition has no controls yet. Close this, and press C to add one to a null.</p>
    <p v-else-if="!drawers.length" class="quiet">No control is called that.</p>
    <section v-for="d in drawers" :key="d.item" :aria-label="d.name">
      <h3>
        <span>{{ d.name }}</span>
        <button
          class="plain all"
          :disabled="!left(d).length"
          :aria-label="`Hand off all of ${d.name}`"
          @click="
            offers.hand(
              d.item,
              left(d).map((c) => c.id),
            )
          "
        >
          All
        </button>
      </h3>
      <label
        v-for="c in d.controls"
        :key="c.id"
        :class="{ off: driven(d.item, c) }"
        :title="driven(d.item, c) ? 'Links drive it, so whoever gets it would move nothing' : c.note"
      >
        <input
          type="checkbox"
          :checked="!!offers.of(d.item, c.id)"
          :disabled="driven(d.item, c) && !offers.of(d.item, c.id)"
          @change="toggle(d.item, c)"
        />
        <span>{{ c.name }}</span>
        <i v-if="driven(d.item, c)" class="quiet">driven</i>
      </label>
    </section>
  </div>
</template>

<style scoped>
.sources {
  overflow: hidden auto;
  border-right: 1px solid var(--line);
  padding-right: 12px;
}
.seek {
  width: calc(100% - 6px);
  margin: 3px; /* room for the ring of the focus */
  min-height: 24px;
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--track);
  border-radius: 4px;
  padding: 2px 6px;
  min-height: 26px;
}
h3 {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: 13px;
  margin: 10px 0 2px;
}
.all {
  color: var(--brassText);
  font-size: 12px;
  min-height: 24px;
  padding: 0 6px;
  border-radius: 3px;
}
.all:hover {
  background: var(--picked);
}
.all:disabled {
  visibility: hidden;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 24px;
}
label span {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
label.off {
  color: var(--ink2);
}
input[type='checkbox'] {
  accent-color: var(--brass);
  margin: 0;
}
i {
  font-style: normal;
  font-size: 11px;
}
</style>
