<script setup lang="ts">
import type { Item, Stop } from '@/core/types'
import { useDocument } from '@/stores/document'
import ColourField from '@/components/shared/ColourField.vue'
import ValueField from '@/components/shared/ValueField.vue'

/** The colours of a gradient between its first, the fill, and its last, the second fill. */
const props = defineProps<{ item: Item }>()
const doc = useDocument()

const all = (): Stop[] => props.item.stops ?? []

function set(stops: Stop[]): void {
  void doc.operations({ op: 'item.stops', item: props.item.id, stops: [...stops].sort((a, b) => a.at - b.at) })
}

const change = (i: number, what: Partial<Stop>): void => set(all().map((s, k) => (k === i ? { ...s, ...what } : s)))
const add = (): void => set([...all(), { at: all().length ? (all()[all().length - 1]?.at ?? 0) / 2 + 0.5 : 0.5, colour: [1, 1, 1, 1] }])
</script>

<template>
  <div v-for="(s, i) in item.stops ?? []" :key="i" class="row">
    <span class="name">Stop {{ i + 1 }}</span>
    <ValueField
      :value="Math.round(s.at * 1000) / 10"
      :label="`Place of stop ${i + 1}`"
      :step="1"
      :min="0"
      :max="100"
      @commit="(x) => change(i, { at: x / 100 })"
    />
    <span class="quiet">%</span>
    <ColourField
      :value="s.colour"
      :label="`Colour of stop ${i + 1}`"
      @commit="(colour) => change(i, { colour: colour as Stop['colour'] })"
    />
    <button class="plain action" :aria-label="`Delete stop ${i + 1}`" @click="set(all().filter((_, k) => k !== i))">Delete</button>
  </div>
  <div class="row"><button class="plain action" @click="add">+ Stop</button></div>
</template>

<style scoped src="./parts.css" />
