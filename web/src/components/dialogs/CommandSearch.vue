<script setup lang="ts">
import { NInput } from 'naive-ui'
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { useChoosing } from '@/composables/choosing'
import { useEverything, type Found } from '@/composables/everything'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Finds everything by its name: commands, items, controls, properties, compositions, graphs, functions of formulas. */
const workspace = useWorkspace()
const typed = ref('')
const input = useTemplateRef<InstanceType<typeof NInput>>('field')
const list = useTemplateRef<HTMLUListElement>('list')

const found = useEverything(typed)

async function choose(f: Found | undefined): Promise<void> {
  if (!f) return
  input.value?.blur() // what fades away has the keys no longer
  workspace.searching = false
  await nextTick()
  landing = f.land && f
  await goTo(f)
}
async function goTo(f: Found): Promise<void> {
  await f.go()
  await nextTick()
  await f.land?.()
}
let landing: Found | undefined
/** A dialog that has faded gives the keys back to where they were, which may pick that: what was found is gone to again. */
async function left(): Promise<void> {
  await nextTick()
  if (landing) await goTo(landing)
  landing = undefined
}
const { at, keys, parts } = useChoosing(
  typed,
  () => found.value,
  () => list.value,
  choose,
)
watch(
  () => workspace.searching,
  (open) => {
    if (!open) return
    typed.value = ''
    at.value = 0
    landing = undefined
    void nextTick(() => setTimeout(() => input.value?.focus()))
  },
)
</script>

<template>
  <ModalCard :show="workspace.searching" title="Search" :width="520" high @close="workspace.searching = false" @left="left">
    <NInput
      ref="field"
      v-model:value="typed"
      placeholder="Commands, items, controls, properties, help"
      :input-props="{ 'aria-label': 'Search everything', ...parts.field.value }"
      @keydown="keys"
    />
    <ul v-show="found.length" :id="parts.list" ref="list" class="list" role="listbox" tabindex="-1" aria-label="What was found">
      <li v-for="(f, i) in found" :key="f.sort + f.name + i" v-bind="parts.entry(i)" @click="choose(f)" @pointerenter="at = i">
        <span class="name">{{ f.name }}</span><span class="quiet figures">{{ f.more }}</span
        ><span class="quiet sort">{{ f.sort }}</span>
      </li>
    </ul>
    <p v-if="!found.length" class="quiet none" role="status">Nothing named “{{ typed }}”.</p>
  </ModalCard>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: min(360px, 100vh - 160px);
  overflow: auto;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 26px;
  padding: 0 8px;
  border-radius: 4px;
  cursor: default;
}
li[aria-selected='true'] {
  background: var(--picked);
}
.none {
  margin: 12px 8px 0;
}
.name {
  flex: 1;
}
.figures {
  font-size: 11px;
}
.sort {
  font-size: 11px;
  min-width: 74px;
  text-align: right;
}
</style>
