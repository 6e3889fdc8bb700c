<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useChoosing } from '@/composables/choosing'
import { useEnds } from '@/composables/ends'
import { useDocument } from '@/stores/document'
import { useWiring } from '@/stores/wiring'
import ModalCard from '@/components/shared/ModalCard.vue'

/**
 * Which property a source is to drive: of the item that a cable was dropped on, where those that fit come first, or, where none is
 * given, of any item, by search.
 */
const doc = useDocument()
const wiring = useWiring()
const ends = useEnds()
const typed = ref('')
const list = useTemplateRef<HTMLUListElement>('list')
/** How many are listed. */
const most = 80
watch(
  () => wiring.choosing,
  () => (typed.value = ''),
)

const words = computed(() => typed.value.toLowerCase().split(/\s+/).filter(Boolean))
const rows = computed(() => {
  const c = wiring.choosing
  if (!c || (!c.item && !words.value.length)) return []
  const vertices = words.value.some((w) => w.startsWith('ver'))
  const all = (c.item ? [c.item] : doc.order).flatMap((id) =>
    [...ends.endsOf(id, vertices), ...ends.workedOf(id), ...ends.copiedOf(id)]
      .filter((e) => !e.spec.readOnly && (words.value.length || !e.ref.component))
      .filter((e) => !c.except?.(e.ref))
      .map((end) => ({
        end,
        name: c.item ? end.name : `${doc.items.get(id)?.name}: ${end.name}`,
        fits: !c.type || wiring.fits(c.type, end.type),
      })),
  )
  return all
    .filter((r) => (c.item || r.fits) && words.value.every((w) => r.name.toLowerCase().includes(w)))
    .sort((a, b) => Number(b.fits) - Number(a.fits))
    .slice(0, most)
})

function take(row: (typeof rows.value)[number] | undefined): void {
  const c = wiring.choosing
  if (!c || !row?.fits) return
  wiring.choosing = null
  void c.take(row.end.ref)
}
const { at, keys, parts } = useChoosing(
  typed,
  () => rows.value,
  () => list.value,
  take,
)
</script>

<template>
  <ModalCard
    :show="wiring.choosing !== null"
    :title="
      wiring.choosing?.item
        ? `Which property of ${doc.items.get(wiring.choosing.item)?.name ?? ''} does it drive?`
        : `What should ${wiring.choosing?.from ?? ''} drive?`
    "
    :width="wiring.choosing?.item ? 340 : 460"
    @close="wiring.choosing = null"
  >
    <NInput
      v-model:value="typed"
      size="small"
      autofocus
      :placeholder="wiring.choosing?.item ? 'Search properties, components (.x) and vertices' : 'Search items and their properties'"
      :input-props="{ 'aria-label': 'Property', ...parts.field.value }"
      @keydown="keys"
    />
    <ul v-show="rows.length" :id="parts.list" ref="list" class="list" role="listbox" tabindex="-1" aria-label="Properties">
      <li
        v-for="(r, i) in rows"
        :key="r.name"
        v-bind="parts.entry(i)"
        :aria-disabled="!r.fits"
        :title="r.fits ? '' : 'Not compatible'"
        @click="take(r)"
        @pointerenter="at = i"
      >
        <span class="tag figures">{{ r.end.tag }}</span>{{ r.name }}
      </li>
    </ul>
    <p v-if="!rows.length && typed" class="quiet" role="status">No property named “{{ typed }}” that fits.</p>
  </ModalCard>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: min(320px, 100vh - 160px);
  overflow: auto;
}
.list li[role='option'] {
  padding: 2px 6px;
  min-height: 24px;
  border-radius: 3px;
  display: flex;
  align-items: center;
  gap: 8px;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--picked);
}
li[aria-disabled='true'] {
  opacity: 0.4;
  cursor: default;
}
.tag {
  width: 30px;
  font-size: 11px;
  border: 1px solid var(--track);
  border-radius: 3px;
  text-align: center;
  line-height: 16px;
}
</style>
