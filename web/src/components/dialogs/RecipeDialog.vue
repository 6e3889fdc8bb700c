<script setup lang="ts">
import { NButton, NCheckbox, NInputNumber } from 'naive-ui'
import { computed, reactive, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { worded } from '@/composables/notify'
import { useParts } from '@/composables/parts'
import type { Gestures, Id, OwnRecipe, Recipe, RecipeField } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import ModalCard from '@/components/shared/ModalCard.vue'
import RecipeDrawing from './RecipeDrawing.vue'
import SavedRecipeForm from './SavedRecipeForm.vue'
import SaveRecipeForm from './SaveRecipeForm.vue'

/** A rig in one step on what is selected: chosen from the list, seen in the viewport, and kept when it is made. */
const doc = useDocument()
const parts = useParts()
const selection = useSelection()
const workspace = useWorkspace()

const search = useTemplateRef<HTMLInputElement>('search')
const sought = ref('')
const items = ref<string[]>([])
const chosen = shallowRef<Recipe>()
/** A recipe of the project in place of one that comes with the application, or the form that saves one. */
const own = shallowRef<OwnRecipe>()
const saving = ref(false)
const ownAsked = shallowRef<Gestures['recipe'] | null>(null)
const form = reactive<{ values: Record<string, number | null>; on: Record<string, boolean> }>({ values: {}, on: {} })

const found = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean)
  return doc.catalogue.recipes.filter((r) => words.every((w) => `${r.name} ${r.help}`.toLowerCase().includes(w)))
})
const ownFound = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean)
  return doc.recipes.filter((r) => words.every((w) => `${r.name} ${r.help ?? ''}`.toLowerCase().includes(w)))
})
// Enter makes what was found: what is chosen is always among it.
watch([found, ownFound], ([all, own_]) => {
  if (saving.value || !sought.value.trim()) return
  if (own.value ? own_.some((r) => r.id === own.value?.id) : chosen.value && all.includes(chosen.value)) return
  if (all[0]) choose(all[0])
  else if (own_[0]) chooseOwn(own_[0].id)
  else choose(undefined)
})
const short = computed(() => (chosen.value ? Math.max(0, chosen.value.least - items.value.length) : 0))
const asked = computed<Gestures['recipe'] | null>(() => {
  if (saving.value || short.value) return null
  if (own.value) return ownAsked.value
  if (!chosen.value) return null
  return {
    recipe: chosen.value.key,
    items: items.value,
    values: Object.fromEntries(
      (chosen.value.fields ?? []).filter((f) => form.on[f.key]).map((f) => [f.key, form.values[f.key] ?? f.default]),
    ),
  }
})

function choose(recipe: Recipe | undefined): void {
  chosen.value = recipe
  own.value = undefined
  saving.value = false
  for (const f of recipe?.fields ?? []) {
    form.values[f.key] = f.default
    form.on[f.key] = !f.off
  }
}
function chooseOwn(id: Id | undefined): void {
  const recipe = doc.recipes.find((r) => r.id === id)
  choose(recipe ? undefined : doc.catalogue.recipes[0])
  own.value = recipe
}
function save(): void {
  choose(undefined)
  saving.value = true
}
/** Takes a recipe out of a file. */
async function bring(): Promise<void> {
  const made = (await parts.choose()).find((id) => doc.recipes.some((r) => r.id === id))
  if (made) chooseOwn(made)
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
const refused = ref('') // why it can't be made of what is selected
watch(asked, async (now) => {
  if (workspace.recipe === null) return
  refused.value = ''
  await doc.cancelPreview()
  if (now) void doc.preview('recipe', now, (error) => asked.value === now && (refused.value = worded(error)))
})

async function make(): Promise<void> {
  const done = asked.value && (await doc.gesture('recipe', asked.value))
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
  <ModalCard :show="workspace.recipe !== null" title="Recipes" :width="590" aside @close="close">
    <!-- Check boxes are toggled by Space alone, not by the Enter that opened the dialog. -->
    <form class="columns" @submit.prevent="make" @keyup.enter.capture.stop>
      <div class="list">
        <input ref="search" v-model="sought" type="search" placeholder="Search recipes" aria-label="Search recipes" />
        <ul aria-label="Recipes">
          <li v-for="r in found" :key="r.key">
            <button type="button" class="plain" :aria-pressed="r === chosen" @click="choose(r)">
              <RecipeDrawing :recipe="r.key" />{{ r.name }}
            </button>
          </li>
        </ul>
        <template v-if="ownFound.length">
          <h3>Of this project</h3>
          <ul aria-label="Recipes of this project">
            <li v-for="r in ownFound" :key="r.id">
              <button type="button" class="plain" :aria-pressed="r === own" @click="chooseOwn(r.id)">{{ r.name }}</button>
            </li>
          </ul>
        </template>
        <p v-if="!found.length && !ownFound.length" class="quiet">No recipe named “{{ sought }}”.</p>
        <div class="keep">
          <NButton size="tiny" :disabled="!items.length" @click="save">Save selection…</NButton>
          <NButton size="tiny" @click="bring">Open a file…</NButton>
        </div>
      </div>
      <div v-if="saving" class="grid"><SaveRecipeForm :items="items" @saved="chooseOwn" @cancel="choose(doc.catalogue.recipes[0])" /></div>
      <div v-else-if="own" class="grid">
        <SavedRecipeForm v-model:asked="ownAsked" :recipe="own" :items="items" @removed="choose(doc.catalogue.recipes[0])" />
        <p v-if="refused" class="wide wrong" role="alert">{{ refused }}</p>
        <span class="wide end">
          <NButton size="small" @click="close">Cancel</NButton>
          <NButton size="small" type="primary" attr-type="submit" :disabled="!ownAsked">Apply</NButton>
        </span>
      </div>
      <div v-else-if="chosen" class="grid">
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
        <p v-if="short" class="wide wrong" role="alert">Select at least {{ chosen.least === 1 ? '1 item' : `${chosen.least} items` }}.</p>
        <p v-else-if="refused" class="wide wrong" role="alert">{{ refused }}</p>
        <p v-else class="wide quiet">On {{ items.length === 1 ? '1 item' : `${items.length} items, in the order you selected them` }}.</p>
        <span class="wide end">
          <NButton size="small" @click="close">Cancel</NButton>
          <NButton size="small" type="primary" attr-type="submit" :disabled="short > 0 || refused !== ''">Apply</NButton>
        </span>
      </div>
    </form>
  </ModalCard>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 190px 1fr;
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
  display: flex;
  align-items: center;
  gap: 8px;
  text-align: left;
  padding: 2px 6px;
  min-height: 28px;
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
.list ul {
  max-height: 34vh;
  overflow: auto;
}
h3 {
  font-size: 12px;
  color: var(--ink2);
  margin: 8px 0 0;
}
.keep {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 8px;
}
</style>

<style scoped src="./recipe.css" />
