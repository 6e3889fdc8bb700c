<script setup lang="ts">
import { NButton, NCheckbox, NInput } from 'naive-ui'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { short } from '@/composables/format'
import type { Id, SavedField } from '@/core/types'
import { useDocument } from '@/stores/document'

/** Keeps what is selected as a recipe: its name, and the numbers that its form asks for. */
const props = defineProps<{ items: Id[] }>()
const emit = defineEmits<{ saved: [id: Id]; cancel: [] }>()
const doc = useDocument()
const name = ref('')
const help = ref('')
const chosen = ref<number[]>([])
const field = useTemplateRef<InstanceType<typeof NInput>>('field')
watch(field, (f) => setTimeout(() => f?.focus()))

/** How many numbers are offered. */
const most = 40

/** The numbers that were set of the items and of what hangs on them. */
const numbers = computed(() => {
  const in_ = new Set(props.items)
  for (const id of doc.order) if (in_.has(doc.items.get(id)?.parent ?? '')) in_.add(id)
  const out: { field: SavedField; value: number }[] = []
  for (const id of doc.order) {
    const item = in_.has(id) && doc.items.get(id)
    if (!item) continue
    for (const [property, state] of Object.entries(doc.statesOf(id))) {
      const spec = doc.spec(id, property)
      if (!spec || spec.type === 'text' || state.own === null || state.own === undefined) continue
      const values = Array.isArray(state.own) ? state.own : [Number(state.own)]
      for (const [k, value] of values.entries()) {
        const component = spec.parts?.[k]
        const called = `${item.name}: ${spec.name}${component ? '.' + component : ''}`
        if (spec.type !== 'colour') out.push({ field: { ref: { item: id, property, component }, name: called, default: value }, value })
      }
    }
  }
  return out.slice(0, most)
})

async function save(): Promise<void> {
  const fields = chosen.value.flatMap((k) => numbers.value[k]?.field ?? [])
  const done = await doc.gesture('save recipe', { items: props.items, name: name.value.trim(), help: help.value.trim(), fields })
  const made = done?.made?.[0]
  if (made) emit('saved', made)
}
function toggle(k: number, on: boolean): void {
  chosen.value = on ? [...chosen.value, k].sort((a, b) => a - b) : chosen.value.filter((x) => x !== k)
}
</script>

<template>
  <p class="quiet wide">
    Keeps {{ items.length === 1 ? 'the selected item' : `the ${items.length} selected items` }}, with what hangs on them and their links
    among each other. What they look at besides is chosen when the recipe is made.
  </p>
  <span>Name</span><NInput ref="field" v-model:value="name" size="small" :input-props="{ 'aria-label': 'Name of the recipe' }" />
  <span>What it does</span><NInput v-model:value="help" size="small" :input-props="{ 'aria-label': 'What the recipe does' }" />
  <template v-if="numbers.length">
    <span class="wide">Values to ask for</span>
    <ul class="wide numbers" aria-label="Numbers of the form">
      <li v-for="(n, k) in numbers" :key="k">
        <NCheckbox :checked="chosen.includes(k)" @update:checked="(on: boolean) => toggle(k, on)">{{ n.field.name }}</NCheckbox>
        <span class="quiet figures">{{ short(n.value) }}</span>
      </li>
    </ul>
  </template>
  <span class="wide end">
    <NButton size="small" @click="emit('cancel')">Back</NButton>
    <NButton size="small" type="primary" :disabled="!name.trim() || !items.length" @click="save">Save recipe</NButton>
  </span>
</template>

<style scoped src="./recipe.css" />

<style scoped>
.numbers {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 160px;
  overflow: auto;
}
.numbers li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  min-height: 26px;
  align-items: center;
}
</style>
