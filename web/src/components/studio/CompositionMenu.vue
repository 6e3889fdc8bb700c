<script setup lang="ts">
import { NButton, NColorPicker, NInputNumber } from 'naive-ui'
import { computed, ref } from 'vue'
import { fromHex, hex } from '@/composables/format'
import { newId } from '@/composables/ids'
import { dialog } from '@/composables/notify'
import { useParts } from '@/composables/parts'
import type { Composition } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import EditableName from '@/components/shared/EditableName.vue'
import ModalCard from '@/components/shared/ModalCard.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** The composition that is open, and the way to the others: choose, add, set up, remove. */
const doc = useDocument()
const selection = useSelection()
const parts = useParts()
const draft = ref<(Composition & { seconds: number }) | null>(null)

/** All but readings, which stand in the list of what was handed off. */
const whole = computed(() => doc.compositions.filter((c) => !c.reading || c.id === doc.compositionId))
const options = computed(() => [
  ...whole.value.map((c) => ({ key: c.id, label: c.name + (c.id === doc.compositionId ? '  ✓' : '') })),
  { key: 'd', type: 'divider' },
  { key: '+', label: 'New composition' },
  { key: 'set', label: 'Composition settings…' },
  { key: 'bring', label: 'Bring in from a project file…' },
  { key: 'save', label: 'Save as a file' },
  { key: '-', label: 'Delete composition', disabled: whole.value.length < 2 },
])

async function choose(key: string): Promise<void> {
  const c = doc.composition
  if (!c) return
  if (key === '+') return add(c)
  if (key === 'bring') return bring()
  if (key === 'save') return parts.save('composition', c.reading ?? c.id, c.name)
  if (key === 'set') draft.value = { ...c, seconds: c.frames / c.rate }
  else if (key === '-') {
    dialog('warning', {
      title: `Delete ${c.name}?`,
      content: 'Everything in it is deleted too. You can undo this.',
      positiveText: 'Delete',
      negativeText: 'Cancel',
      onPositiveClick: () => void doc.operations({ op: 'composition.remove' }),
    })
  } else {
    selection.clear()
    await doc.select(key)
  }
}

/** Brings compositions in, and opens the first of them. */
async function bring(): Promise<void> {
  const [first] = (await parts.choose()).filter((id) => doc.compositions.some((c) => c.id === id))
  if (first) await choose(first)
}

async function add(like: Composition): Promise<void> {
  const id = newId()
  const names = new Set(doc.compositions.map((c) => c.name))
  let n = doc.compositions.length + 1
  while (names.has(`Composition ${n}`)) n++
  const value = {
    id,
    name: `Composition ${n}`,
    width: like.width,
    height: like.height,
    rate: like.rate,
    frames: like.frames,
    background: like.background,
    items: [],
  }
  if (await doc.gesture('operations', { ops: [{ op: 'composition.add', value, at: -1 }] })) await choose(id)
}

function keep(): void {
  const d = draft.value
  draft.value = null
  if (d)
    void doc.operations({
      op: 'composition.set',
      width: d.width,
      height: d.height,
      rate: d.rate,
      frames: Math.max(1, Math.round(d.seconds * d.rate)),
      background: d.background,
    })
}
</script>

<template>
  <EditableName
    v-if="doc.composition"
    class="composition"
    label="Composition name"
    :name="doc.composition.name"
    @rename="(name) => doc.operations({ op: 'composition.set', name })"
  />
  <MenuList trigger="click" :options="options" placement="bottom-start" @select="choose">
    <button class="plain open" aria-label="Compositions" title="Compositions and settings">▾</button>
  </MenuList>
  <ModalCard :show="draft !== null" title="Composition settings" :width="380" @close="draft = null" @enter="keep">
    <div v-if="draft" class="form">
      <span>Size</span
      ><NInputNumber
        v-model:value="draft.width"
        :show-button="false"
        size="small"
        :min="1"
        :max="16384"
        :input-props="{ 'aria-label': 'Width' }"
      /><NInputNumber
        v-model:value="draft.height"
        :show-button="false"
        size="small"
        :min="1"
        :max="16384"
        :input-props="{ 'aria-label': 'Height' }"
      />
      <span>Frame rate (fps)</span
      ><NInputNumber
        v-model:value="draft.rate"
        :show-button="false"
        size="small"
        :min="1"
        :max="240"
        :input-props="{ 'aria-label': 'Frame rate' }"
      /><i /> <span>Duration (s)</span
      ><NInputNumber
        v-model:value="draft.seconds"
        :show-button="false"
        size="small"
        :min="0.01"
        :max="36000"
        :input-props="{ 'aria-label': 'Duration in seconds' }"
      /><i /> <span>Background</span
      ><NColorPicker
        size="small"
        :modes="['hex']"
        :show-alpha="false"
        :value="hex(draft.background)"
        @update:value="(c: string) => draft && (draft.background = fromHex(c) as Composition['background'])"
      /><i />
    </div>
    <template #footer
      ><div class="foot">
        <NButton @click="draft = null">Cancel</NButton><NButton type="primary" @click="keep">Apply</NButton>
      </div></template
    >
  </ModalCard>
</template>

<style scoped>
.composition {
  font-weight: 500;
}
.open {
  padding: 0 5px;
  border-radius: 3px;
  color: var(--ink2);
}
.open:hover {
  background: var(--picked);
}
.form {
  display: grid;
  grid-template-columns: 1fr 100px 100px;
  gap: 8px;
  align-items: center;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
