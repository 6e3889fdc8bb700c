<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { computed } from 'vue'
import { useOffers } from '@/composables/offers'
import { useParts } from '@/composables/parts'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'
import HandOffAddresses from './HandOffAddresses.vue'
import OfferList from './OfferList.vue'
import OfferSources from './OfferSources.vue'

/** What of the composition is handed off: which controls, in which order, and what is said of them. */
const doc = useDocument()
const workspace = useWorkspace()
const offers = useOffers()
const parts = useParts()
const save = (): Promise<void> => parts.save('hand-off', doc.compositionId, doc.composition?.name ?? '')
const close = (): void => void (workspace.handingOff = false)

/** The compositions that show this one as a piece. */
const users = computed(() => doc.compositions.filter((c) => !c.reading && c.shows?.includes(doc.compositionId)))
const note = computed(() => doc.composition?.handOff?.note ?? '')
function keep(event: Event): void {
  const text = (event.target as HTMLTextAreaElement).value
  if (text !== note.value) void offers.note(text)
}
</script>

<template>
  <ModalCard :show="workspace.handingOff" :title="`Hand off ${doc.composition?.name ?? ''}`" :width="1000" @close="close">
    <p class="quiet about">
      Whoever gets it sees the picture and these controls, and nothing of what is inside. In other compositions they are the properties of
      its pieces.
    </p>
    <div class="columns">
      <OfferSources />
      <div class="given">
        <OfferList />
        <NInput
          v-if="offers.offers.value.length"
          :default-value="note"
          class="note"
          size="small"
          type="textarea"
          :autosize="{ minRows: 1, maxRows: 3 }"
          placeholder="A note to whoever gets it"
          :input-props="{ 'aria-label': 'A note to whoever gets it' }"
          :maxlength="2000"
          @blur="keep"
          @keydown.stop
        />
        <HandOffAddresses v-if="offers.offers.value.length" />
      </div>
    </div>
    <template #footer>
      <div class="foot">
        <span class="quiet">{{
          users.length ? `Shown as a piece in ${users.map((c) => c.name).join(', ')}` : 'Not shown as a piece anywhere yet'
        }}</span>
        <NButton v-if="offers.offers.value.length" quaternary @click="save">Save as a file, with its readings</NButton>
        <NButton type="primary" @click="close">Done</NButton>
      </div>
    </template>
  </ModalCard>
</template>

<style scoped>
.about {
  margin: -6px 0 10px;
}
.columns {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  gap: 16px;
  height: min(480px, 60vh);
}
.given {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
}
.note {
  flex: none;
}
.foot {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
}
</style>
