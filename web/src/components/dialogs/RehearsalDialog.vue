<script setup lang="ts">
import { NButton, NCheckbox, NProgress } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import IconError from '~icons/tabler/circle-x'
import IconWarning from '~icons/tabler/alert-triangle'
import { dated } from '@/composables/format'
import { sentence } from '@/composables/notify'
import { useRehearsal } from '@/composables/rehearsal'
import type { Finding } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Sweeps the controls over their ranges and lists what goes wrong, with a picture of each moment. */
const props = defineProps<{ project: string }>()
const doc = useDocument()
const playback = usePlayback()
const selection = useSelection()
const workspace = useWorkspace()
const rehearsal = useRehearsal(computed(() => props.project))
const { share, failed, last, shown } = rehearsal

const chosen = ref(false)
const overlaps = ref(false)
const none = computed(() => !doc.controlled.length)
const picked = computed(() => selection.controls)
const when = computed(() => (last.value ? dated(last.value.at) : ''))

/** The pictures of the first findings, by their place in the list; made one after the other. */
const pictures = ref<string[]>([])
const pictured = 12
watch(
  [() => last.value?.found, () => workspace.rehearsing],
  async ([found, open]) => {
    pictures.value = []
    if (!open) return
    for (const [k, f] of (found ?? []).slice(0, pictured).entries()) {
      const made = await rehearsal.picture(f)
      if (last.value?.found !== found) return
      pictures.value[k] = made
    }
  },
  { immediate: true },
)

function show(f: Finding): void {
  if (shown.value === f) return rehearsal.back()
  selection.pick(f.at.item)
  void rehearsal.show(f)
}
function close(): void {
  rehearsal.cancel()
  rehearsal.back()
  workspace.rehearsing = false
}
</script>

<template>
  <ModalCard :show="workspace.rehearsing" title="Rehearsal" :width="440" aside @close="close">
    <p class="quiet">
      Moves every control over its range at frame {{ playback.frame }}, and pairs to their extremes, and looks for jumps, invalid results,
      limits, and items that leave the frame. Your project isn't changed.
    </p>
    <div class="options">
      <NCheckbox v-if="picked.length" v-model:checked="chosen"
        >Only the selected {{ picked.length === 1 ? 'control' : 'controls' }}</NCheckbox
      >
      <NCheckbox v-model:checked="overlaps">Also report overlapping members</NCheckbox>
    </div>
    <div class="end">
      <NProgress
        v-if="share !== null"
        class="bar"
        type="line"
        :percentage="share"
        :show-indicator="false"
        :height="6"
        aria-label="Rehearsal progress"
      />
      <span v-else-if="last" class="quiet space" role="status">Last rehearsal: {{ when }}</span>
      <span v-else class="space" />
      <NButton v-if="share !== null" size="small" @click="rehearsal.cancel">Cancel</NButton>
      <NButton size="small" type="primary" :disabled="share !== null || none" @click="rehearsal.run(chosen ? picked : [], overlaps)"
        >Rehearse</NButton
      >
    </div>
    <p v-if="failed" class="wrong" role="alert">{{ failed }}</p>
    <p v-if="none" class="quiet" role="status">There are no controls to rehearse in this composition. Press C to make one.</p>
    <template v-else-if="last && share === null">
      <p v-if="!last.found.length" class="fine">No problems found.</p>
      <ul v-else class="list" aria-label="What was found">
        <li v-for="(f, i) in last.found" :key="i" :class="{ now: shown === f }">
          <img v-if="pictures[i]" :src="pictures[i]" alt="" />
          <span v-else class="blank" />
          <span class="says"
            ><IconError v-if="f.severity === 'error'" class="error" aria-label="Error" /><IconWarning
              v-else
              class="warning"
              aria-label="Warning"
            />
            {{ sentence(f.sentence) }}</span
          >
          <NButton size="tiny" :aria-pressed="shown === f" :aria-label="`Show: ${f.sentence}`" @click="show(f)">{{
            shown === f ? 'Back' : 'Show'
          }}</NButton>
        </li>
      </ul>
    </template>
  </ModalCard>
</template>

<style scoped>
.options {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.end {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 8px 0;
}
.bar,
.space {
  flex: 1;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 46vh;
  overflow: auto;
}
.list li {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 4px;
  border-radius: 4px;
}
.list .now {
  background: var(--picked);
}
img,
.blank {
  width: 96px;
  height: 54px;
  flex: none;
  object-fit: contain;
  background: var(--ground);
  border: 1px solid var(--line);
  border-radius: 3px;
}
.says {
  flex: 1;
  min-width: 0;
}
.says svg {
  vertical-align: -2px;
}
.error,
.wrong {
  color: var(--oxblood);
}
.warning {
  color: var(--ochre);
}
</style>
