<script setup lang="ts">
import { NPopover } from 'naive-ui'
import { ref, watch } from 'vue'
import type { Difference } from '@/core/types'
import { useBefore } from '@/stores/before'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import EditableName from '@/components/shared/EditableName.vue'
import ModeBand from './ModeBand.vue'

/** Over the viewport while the picture is compared with a state that was kept: which, what is otherwise now, and the ways back. */
const doc = useDocument()
const before = useBefore()
const selection = useSelection()
const workspace = useWorkspace()

const differences = ref<Difference[]>([])
watch(
  [() => before.comparing && before.chosen?.id, () => doc.rested],
  async ([id]) => (differences.value = id ? await before.differences(id) : []),
  { immediate: true },
)
const said = (d: Difference): string => (d.what === 'new' || d.what === 'gone' ? d.what : `other ${d.what}`)

/** Goes to what is otherwise, where it is still there. */
function go(d: Difference): void {
  const { item, property } = d.ref
  if (doc.items.get(item)?.controls?.some((c) => c.id === property)) {
    workspace.tab = 'desk'
    return selection.pickControl({ item, property })
  }
  selection.pick(item)
  if (property) selection.pickProperty(property, false)
}
</script>

<template>
  <ModeBand v-if="before.comparing && before.chosen">
    <template #what
      >Before: <b><EditableName label="Name" :name="before.chosen.name" @rename="(name) => before.rename(before.chosen!.id, name)" /></b
    ></template>
    <NPopover v-if="differences.length" trigger="click" placement="bottom" style="max-height: 320px; overflow: auto; padding: 4px">
      <template #trigger>
        <button class="plain menu">{{ differences.length }} {{ differences.length === 1 ? 'difference' : 'differences' }}</button>
      </template>
      <ul class="differences" aria-label="Differences">
        <li v-for="d in differences" :key="`${d.ref.item}/${d.ref.property}`">
          <button v-if="d.here" class="plain" @click="go(d)">
            {{ d.name }} <i>{{ said(d) }}</i>
          </button>
          <span v-else>
            {{ d.name }} <i>{{ said(d) }}</i>
          </span>
        </li>
      </ul>
    </NPopover>
    <span v-else class="quiet">No differences</span>
    <button class="plain" title="The composition becomes what it was; can be undone" @click="before.goBack(before.chosen.id)">
      Go back to it
    </button>
    <button class="plain" title="Forgets this state; the composition stays as it is" @click="before.remove(before.chosen.id)">
      Delete
    </button>
    <button class="plain done" @click="before.comparing = false">Done</button>
  </ModeBand>
</template>

<style scoped src="./band.css"></style>

<style scoped>
.differences {
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 12px;
}
.differences button,
.differences span {
  display: block;
  width: 100%;
  padding: 3px 8px;
  text-align: left;
  border-radius: 3px;
}
.differences button:hover {
  background: var(--picked);
}
.differences i {
  font-style: normal;
  color: var(--ink2);
  margin-left: 8px;
}
</style>
