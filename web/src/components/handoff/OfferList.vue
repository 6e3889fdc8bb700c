<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'
import { useOffers, type Listed } from '@/composables/offers'
import OfferRow from './OfferRow.vue'

/** The controls that are handed off, in their order: dragged by their handles, or moved by arrow keys on them. */
const offers = useOffers()
const list = useTemplateRef<HTMLOListElement>('list')
/** The row that is dragged, and where it would go. */
const dragged = ref<number | null>(null)
const over = ref(0)

function place(y: number): number {
  const rows = [...(list.value?.children ?? [])]
  const at = rows.findIndex((row) => y < row.getBoundingClientRect().top + row.getBoundingClientRect().height / 2)
  return at < 0 ? rows.length : at
}
function grab(event: PointerEvent, at: number): void {
  dragged.value = over.value = at
  const handle = event.target as HTMLElement
  handle.setPointerCapture(event.pointerId)
  const follow = (e: PointerEvent): void => void (over.value = place(e.clientY))
  const end = (keep: boolean): void => {
    handle.removeEventListener('pointermove', follow)
    const from = dragged.value
    dragged.value = null
    if (keep && from !== null) void move(from, over.value > from ? over.value - 1 : over.value)
  }
  handle.addEventListener('pointermove', follow)
  handle.addEventListener('pointerup', () => end(true), { once: true })
  handle.addEventListener('pointercancel', () => end(false), { once: true })
}
async function move(from: number, to: number): Promise<void> {
  const one = offers.listed.value[from]
  if (!one || to === from || to < 0 || to >= offers.listed.value.length) return
  await offers.move(one.offer, to)
  await nextTick()
  list.value?.children[to]?.querySelector<HTMLElement>('.handle')?.focus()
}
const key = (one: Listed): string => one.offer.id
</script>

<template>
  <p v-if="!offers.listed.value.length" class="none">
    Tick the controls that a colleague may use. Here they get their order, names and limits.
  </p>
  <ol v-else ref="list" aria-label="Handed off">
    <OfferRow
      v-for="(one, k) in offers.listed.value"
      :key="key(one)"
      :one="one"
      :class="{
        dragged: dragged === k,
        before: dragged !== null && over === k,
        behind: dragged !== null && over === k + 1 && k + 1 === offers.listed.value.length,
      }"
      @grab="(e) => grab(e, k)"
      @step="(by) => move(k, k + by)"
    />
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  flex: 1;
  overflow: hidden auto;
}
.none {
  flex: 1;
  display: grid;
  place-items: center;
  text-align: center;
  margin: 0 15%;
  color: var(--ink2);
}
.dragged {
  opacity: 0.5;
}
.before {
  box-shadow: inset 0 2px var(--brass);
}
.behind {
  box-shadow: inset 0 -2px var(--brass);
}
</style>
