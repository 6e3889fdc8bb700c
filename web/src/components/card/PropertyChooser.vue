<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useEnds } from '@/composables/ends'
import { useDocument } from '@/stores/document'
import { useWiring } from '@/stores/wiring'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Opened where a cable is dropped on an item: which of its properties is meant. Those that fit come first. */
const doc = useDocument()
const wiring = useWiring()
const ends = useEnds()
const typed = ref('')
watch(
  () => wiring.choosing,
  () => (typed.value = ''),
)

const rows = computed(() => {
  const c = wiring.choosing
  const item = c && doc.items.get(c.item)
  if (!c || !item) return []
  const words = typed.value.toLowerCase()
  const all = [...ends.endsOf(item.id, words.startsWith('ver')), ...ends.workedOf(item.id)]
  return all
    .filter((e) => !e.spec.readOnly && (words ? e.name.toLowerCase().includes(words) : !e.ref.component))
    .map((end) => ({ end, fits: wiring.fits(c.type, end.type) }))
    .sort((a, b) => Number(b.fits) - Number(a.fits))
})

function take(at: number): void {
  const c = wiring.choosing
  const row = rows.value[at]
  if (!c || !row?.fits) return
  wiring.choosing = null
  void wiring.link(c.source, [row.end.ref])
}
</script>

<template>
  <ModalCard
    :show="wiring.choosing !== null"
    :title="`Which property of ${doc.items.get(wiring.choosing?.item ?? '')?.name ?? ''} does it drive?`"
    :width="340"
    @close="wiring.choosing = null"
  >
    <NInput
      v-model:value="typed"
      size="small"
      autofocus
      placeholder="Search properties, components (.x) and vertices"
      :input-props="{ 'aria-label': 'Property' }"
      @keydown.enter.prevent="take(0)"
    />
    <ul class="list">
      <li v-for="(r, i) in rows" :key="r.end.name">
        <button class="plain" :disabled="!r.fits" :title="r.fits ? '' : 'Not compatible'" @click="take(i)">
          <span class="tag figures">{{ r.end.tag }}</span>{{ r.end.name }}
        </button>
      </li>
    </ul>
  </ModalCard>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 320px;
  overflow: auto;
}
button {
  width: 100%;
  text-align: left;
  padding: 2px 6px;
  border-radius: 3px;
  display: flex;
  gap: 8px;
}
button:hover:not(:disabled) {
  background: var(--picked);
}
button:disabled {
  opacity: 0.4;
}
.tag {
  width: 30px;
  font-size: 10px;
  border: 1px solid var(--track);
  border-radius: 3px;
  text-align: center;
  line-height: 16px;
}
</style>
