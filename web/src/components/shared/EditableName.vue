<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'
import { useGivingBack } from '@/composables/givingBack'

/** A name that can be changed in its place: double click, or F2 or Enter on it. */
const props = defineProps<{ name: string; label: string; bare?: boolean }>()
const emit = defineEmits<{ rename: [name: string] }>()

const editing = ref(false)
const draft = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
const button = useTemplateRef<HTMLButtonElement>('button')
const { began, back } = useGivingBack(() => button.value)

async function edit(): Promise<void> {
  began()
  draft.value = props.name
  editing.value = true
  await nextTick()
  field.value?.select()
}

function finish(keep: boolean): void {
  if (!editing.value) return
  const had = document.activeElement === field.value
  editing.value = false
  if (had) back()
  const name = draft.value.trim()
  if (keep && name && name !== props.name) emit('rename', name)
}

defineExpose({ edit })
</script>

<template>
  <input
    v-if="editing"
    ref="field"
    v-model="draft"
    class="field"
    :aria-label="label"
    maxlength="200"
    @blur="finish(true)"
    @keydown.enter.stop="finish(true)"
    @keydown.esc.stop="finish(false)"
    @pointerdown.stop
    @dblclick.stop
  />
  <span v-else-if="bare" class="name" :title="name">{{ name }}</span>
  <button
    v-else
    ref="button"
    class="plain name"
    :aria-label="`${label}: ${name}. Press to rename`"
    :title="`${name} (double click to rename)`"
    @dblclick.stop="edit"
    @keydown.enter.stop.prevent="edit"
    @keydown.f2.stop="edit"
  >
    {{ name }}
  </button>
</template>

<style scoped>
.name {
  overflow: clip visible;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-width: 24px;
  text-align: left;
}
.field {
  font: inherit;
  color: inherit;
  width: 100%;
  min-width: 60px;
  max-width: 260px;
  background: var(--card);
  border: 1px solid var(--brass);
  border-radius: 4px;
  padding: 0 4px;
  height: 22px;
}
</style>
