<script setup lang="ts">
import { NButton, NCheckbox, NInputNumber } from 'naive-ui'
import { computed, reactive, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Gestures, Recipe, RecipeField } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import ModalCard from '@/components/shared/ModalCard.vue'

/** A rig in one step on what is selected: chosen from the list, seen in the viewport, and kept when it is made. */
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()

const search = useTemplateRef<HTMLInputElement>('search')
const sought = ref('')
const items = ref<string[]>([])
const chosen = shallowRef<Recipe>()
const form = reactive<{ values: Record<string, number | null>; on: Record<string, boolean> }>({ values: {}, on: {} })

const found = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean)
  return doc.catalogue.recipes.filter((r) => words.every((w) => `${r.name} ${r.help}`.toLowerCase().includes(w)))
})
const short = computed(() => (chosen.value ? Math.max(0, chosen.value.least - items.value.length) : 0))
const asked = computed<Gestures['recipe']>(() => ({
  recipe: chosen.value?.key ?? '',
  items: items.value,
  values: Object.fromEntries(
    (chosen.value?.fields ?? []).filter((f) => form.on[f.key]).map((f) => [f.key, form.values[f.key] ?? f.default]),
  ),
}))

function choose(recipe: Recipe | undefined): void {
  chosen.value = recipe
  for (const f of recipe?.fields ?? []) {
    form.values[f.key] = f.default
    form.on[f.key] = !f.off
  }
}
const options = (f: RecipeField) => (f.options ?? []).map((label, value) => ({ label, value }))

watch(
  () => workspace.recipe,
  (key) => {
    if (key === null) return
    sought.value = ''
    items.value = [...selection.ids]
    setTimeout(() => search.value?.focus()) // once the dialog is there
    choose(doc.catalogue.recipes.find((r) => r.key === key) ?? doc.catalogue.recipes[0])
  },
)
// Seen before it is kept: each change takes the place of the one before.
watch(asked, async (now) => {
  if (workspace.recipe === null || !chosen.value) return
  await doc.cancelPreview()
  if (!short.value) void doc.preview('recipe', now)
})

async function make(): Promise<void> {
  const done = await doc.gesture('recipe', asked.value)
  if (!done) return
  workspace.recipe = null
  const made = (done.made ?? []).filter((id) => doc.items.has(id))
  if (made.length) selection.pickAll(made)
}
function close(): void {
  workspace.recipe = null
  void doc.cancelPreview()
}
</script>

<template>
  <ModalCard :show="workspace.recipe !== null" title="Recipes" :width="560" aside @close="close">
    <!-- Check boxes are toggled by Space alone, not by the Enter that opened the dialog. -->
    <form class="columns" @submit.prevent="make" @keyup.enter.capture.stop>
      <div class="list">
        <input ref="search" v-model="sought" type="search" placeholder="Search recipes" aria-label="Search recipes" />
        <ul aria-label="Recipes">
          <li v-for="r in found" :key="r.key">
            <button type="button" class="plain" :aria-pressed="r === chosen" @click="choose(r)">{{ r.name }}</button>
          </li>
        </ul>
        <p v-if="!found.length" class="quiet">No recipe named “{{ sought }}”.</p>
      </div>
      <div v-if="chosen" class="grid">
        <p class="quiet wide">{{ chosen.help }}</p>
        <template v-for="f in chosen.fields" :key="f.key">
          <NCheckbox v-if="f.optional" v-model:checked="form.on[f.key]">{{ f.name }}</NCheckbox>
          <span v-else>{{ f.name }}</span>
          <ChoiceField
            v-if="f.options"
            size="small"
            :value="form.values[f.key] ?? f.default"
            :options="options(f)"
            :label="f.name"
            @update:value="(n: number) => (form.values[f.key] = n)"
          />
          <NInputNumber
            v-else
            v-model:value="form.values[f.key]"
            size="small"
            :disabled="!form.on[f.key]"
            :placeholder="String(f.default)"
            :show-button="false"
            :input-props="{ 'aria-label': f.name }"
            ><template v-if="f.unit" #suffix>{{ f.unit }}</template></NInputNumber
          >
        </template>
        <p v-if="short" class="wide wrong" role="alert">Select {{ chosen.least }} items or more first.</p>
        <p v-else class="wide quiet">On {{ items.length === 1 ? '1 item' : `${items.length} items, in the order you selected them` }}.</p>
        <span class="wide end">
          <NButton size="small" @click="close">Cancel</NButton>
          <NButton size="small" type="primary" attr-type="submit" :disabled="short > 0">Make it</NButton>
        </span>
      </div>
    </form>
  </ModalCard>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 16px;
}
.list input {
  width: 100%;
  font: inherit;
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--track);
  border-radius: 4px;
  padding: 2px 6px;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li button {
  width: 100%;
  text-align: left;
  padding: 2px 6px;
  min-height: 26px;
  border-radius: 4px;
}
li button[aria-pressed='true'] {
  background: var(--picked);
}
.grid {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 6px;
  align-items: center;
  align-content: start;
}
.wide {
  grid-column: 1 / -1;
  margin: 0;
}
.wrong {
  color: var(--oxblood);
}
.end {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
