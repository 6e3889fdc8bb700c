<script setup lang="ts">
import { NButton, NInputNumber } from 'naive-ui'
import { computed, reactive, watch } from 'vue'
import { useParts } from '@/composables/parts'
import type { Gestures, Id, OwnRecipe } from '@/core/types'
import { useDocument } from '@/stores/document'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** The form of a recipe of the project: who takes the places of its slots, and its numbers. */
const props = defineProps<{ recipe: OwnRecipe; items: Id[] }>()
const asked = defineModel<Gestures['recipe'] | null>('asked', { required: true })
const emit = defineEmits<{ removed: [] }>()
const doc = useDocument()
const parts = useParts()

const form = reactive<{ slots: Id[]; numbers: (number | null)[] }>({ slots: [], numbers: [] })
const others = computed(() => [...doc.items.values()].map((i) => ({ label: i.name, value: i.id })))

watch(
  () => props.recipe.id,
  () => {
    form.slots = (props.recipe.slots ?? []).map((s, k) => {
      const all = [...doc.items.values()]
      const same = all.find((i) => i.id === s.item) ?? all.find((i) => i.name === s.name)
      const picked = doc.items.get(props.items[k] ?? '')
      return picked?.kind === s.kind ? picked.id : (same?.id ?? '')
    })
    form.numbers = (props.recipe.fields ?? []).map((f) => f.default)
  },
  { immediate: true },
)
watch(
  form,
  () => {
    const values = Object.fromEntries(form.numbers.map((x, k) => [`f${k}`, x ?? props.recipe.fields?.[k]?.default ?? 0]))
    asked.value = form.slots.every(Boolean) ? { recipe: props.recipe.id, items: [...form.slots], values } : null
  },
  { immediate: true, deep: true },
)

const save = (): Promise<void> => parts.save('recipe', props.recipe.id, props.recipe.name)
async function remove(): Promise<void> {
  const ops = [{ op: 'recipe.remove' as const, recipe: props.recipe.id }]
  emit('removed')
  await doc.cancelPreview()
  await doc.gesture('operations', { ops })
}
</script>

<template>
  <p v-if="recipe.help" class="quiet wide">{{ recipe.help }}</p>
  <template v-for="(slot, k) in recipe.slots ?? []" :key="slot.item">
    <span>{{ slot.name }}</span>
    <ChoiceField
      size="small"
      :value="form.slots[k] ?? ''"
      :options="others"
      :label="`What takes the place of ${slot.name}`"
      @update:value="(id: string) => (form.slots[k] = id)"
    />
  </template>
  <template v-for="(f, k) in recipe.fields ?? []" :key="k">
    <span>{{ f.name }}</span>
    <NInputNumber
      v-model:value="form.numbers[k]"
      size="small"
      :placeholder="String(f.default)"
      :show-button="false"
      :input-props="{ 'aria-label': f.name }"
      ><template v-if="f.unit" #suffix>{{ f.unit }}</template></NInputNumber
    >
  </template>
  <p v-if="asked === null" class="wide wrong" role="alert">Choose an item for each of them first.</p>
  <span class="wide tools">
    <NButton size="tiny" @click="save">Save as a file</NButton>
    <NButton size="tiny" @click="remove">Delete from the project</NButton>
  </span>
</template>

<style scoped src="./recipe.css" />
