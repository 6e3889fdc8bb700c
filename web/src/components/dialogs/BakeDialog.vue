<script setup lang="ts">
import { NButton, NInputNumber, NProgress } from 'naive-ui'
import { computed, reactive, ref, watch } from 'vue'
import { core } from '@/core/client'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Turns what drives properties into pins: over which frames, and how exactly. */
const doc = useDocument()
const workspace = useWorkspace()
const form = reactive({ from: 0, to: 0, tolerance: 0.1 })

watch(
  () => workspace.baking,
  (refs) => {
    if (refs) Object.assign(form, { from: 0, to: (doc.composition?.frames ?? 1) - 1 })
  },
)
const title = computed(() => {
  const refs = workspace.baking ?? []
  return refs[0] ? `Bake ${doc.nameOf(refs[0])}${refs.length > 1 ? ` and ${refs.length - 1} more` : ''}` : 'Bake'
})

/** How much of the bake is worked out, in percent; null while none is under way. */
const share = ref<number | null>(null)
const shown = ref(false)
let cancelled = false

/** Works it out a piece at a time, so that it can be stopped; a bar comes where that takes a moment. */
async function bake(): Promise<void> {
  const asked = { targets: workspace.baking ?? [], ...form }
  const late = setTimeout(() => (shown.value = true), 300)
  cancelled = false
  for (share.value = 0; share.value < 100 && !cancelled;) {
    const { result, error } = await core.ask('bake', asked)
    share.value = result && !error ? Math.floor((100 * result.done) / result.of) : 100 // the gesture says what is wrong
  }
  clearTimeout(late)
  share.value = null
  shown.value = false
  if (cancelled) return
  workspace.baking = null
  await doc.gesture('bake', asked)
}

function close(): void {
  cancelled = true
  if (share.value === null) workspace.baking = null
}
</script>

<template>
  <ModalCard :show="workspace.baking !== null" :title="title" :width="400" @close="close" @enter="share === null && bake()">
    <p class="quiet">
      Converts the result to pins. Links are turned off, not deleted: <em>Undo bake</em> in the menu of the property brings them back.
    </p>
    <div class="grid">
      <span>First frame</span
      ><NInputNumber v-model:value="form.from" :show-button="false" size="small" :input-props="{ 'aria-label': 'First frame to bake' }" />
      <span>Last frame</span
      ><NInputNumber v-model:value="form.to" :show-button="false" size="small" :input-props="{ 'aria-label': 'Last frame to bake' }" />
      <span>Tolerance</span
      ><NInputNumber
        v-model:value="form.tolerance"
        :show-button="false"
        size="small"
        :min="0"
        :step="0.1"
        :input-props="{ 'aria-label': 'Tolerance: the largest allowed error' }"
      />
    </div>
    <template #footer>
      <div class="end">
        <NProgress
          v-if="shown"
          class="bar"
          type="line"
          :percentage="share ?? 100"
          :show-indicator="false"
          :height="6"
          aria-label="Bake progress"
        />
        <span class="space" />
        <NButton v-if="share !== null" size="small" @click="close">Cancel</NButton>
        <NButton type="primary" size="small" :disabled="share !== null" @click="bake">Bake</NButton>
      </div>
    </template>
  </ModalCard>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 6px;
  align-items: center;
}
.end {
  display: flex;
  align-items: center;
  gap: 8px;
}
.bar {
  flex: 1;
}
.space {
  flex: 1;
}
.bar + .space {
  display: none;
}
</style>
