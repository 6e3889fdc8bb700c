<script setup lang="ts">
import { NInputNumber } from 'naive-ui'
import { computed, nextTick, ref } from 'vue'
import IconGrip from '~icons/tabler/grip-vertical'
import IconClose from '~icons/tabler/x'
import { shownValue } from '@/composables/format'
import { useOffers, type Listed } from '@/composables/offers'
import type { Offer } from '@/core/types'
import { useDocument } from '@/stores/document'
import EditableName from '@/components/shared/EditableName.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** A control that is handed off: its name there, its limits, whether it may be pinned; its heading above it, its note below. */
const props = defineProps<{ one: Listed }>()
const emit = defineEmits<{ grab: [event: PointerEvent]; step: [by: number] }>()
const doc = useDocument()
const offers = useOffers()

const offer = computed(() => props.one.offer)
const control = computed(() => offers.control(offer.value))
const spec = computed(() => doc.spec(offer.value.item, offer.value.control))
const numeric = computed(() => ['fader', 'dial', 'point'].includes(control.value?.kind ?? ''))
const set = (what: Partial<Offer>): void => void offers.set(offer.value, what)

const heading = ref(false)
const noting = ref(false)
const note = computed(() => offer.value.note ?? control.value?.note ?? '')
function keepNote(event: Event): void {
  noting.value = false
  const text = (event.target as HTMLInputElement).value.trim()
  if (text !== note.value) set({ note: text })
}
function keepHeading(text: string): void {
  heading.value = false
  if (text.trim() !== (offer.value.heading ?? '')) set({ heading: text.trim() })
}

/** The value of the control at this frame. */
const now = computed(() => {
  const s = spec.value
  if (!s) return undefined
  const numbers = doc.numbers(offer.value.item, s)
  return s.type === 'text' ? (doc.texts[numbers[0] ?? 0] ?? '') : numbers.length > 1 ? numbers : numbers[0]
})
const begins = computed(() => {
  const value = offer.value.default
  return value === undefined || value === null || !spec.value ? '' : `Begins at ${shownValue(spec.value, value)}`
})
const options = computed(() => [
  { key: 'heading', label: offer.value.heading ? 'Remove the heading' : 'Add a heading above' },
  { key: 'note', label: note.value ? 'Change the note' : 'Add a note' },
  { type: 'divider', key: 'd' },
  {
    key: 'now',
    label:
      spec.value && now.value !== undefined ? `Begin at the value now (${shownValue(spec.value, now.value)})` : 'Begin at the value now',
    disabled: now.value === undefined,
  },
  { key: 'own', label: 'Begin as the composition is, pins included', disabled: !begins.value },
])
async function choose(key: string): Promise<void> {
  if (key === 'now') set({ default: now.value })
  else if (key === 'own') set({ default: undefined })
  else if (key === 'note') {
    noting.value = true
    await nextTick()
  } else if (offer.value.heading) set({ heading: '' })
  else heading.value = true
}
</script>

<template>
  <li :data-offer="one.name">
    <h4 v-if="offer.heading || heading">
      <EditableName v-if="offer.heading" :name="offer.heading" label="Heading" @rename="keepHeading" />
      <input
        v-else
        class="field"
        placeholder="Heading"
        aria-label="Heading"
        maxlength="200"
        @vue:mounted="(v: { el: HTMLInputElement }) => v.el.focus()"
        @blur="keepHeading(($event.target as HTMLInputElement).value)"
        @keydown.enter.stop="($event.target as HTMLInputElement).blur()"
        @keydown.esc.stop="heading = false"
      />
    </h4>
    <div class="row">
      <button
        class="plain handle"
        :aria-label="`Move ${one.name}: drag, or arrow up and down`"
        title="Drag to move; or arrow up and down"
        @pointerdown.prevent="emit('grab', $event)"
        @keydown.up.stop.prevent="emit('step', -1)"
        @keydown.down.stop.prevent="emit('step', 1)"
      >
        <IconGrip aria-hidden="true" />
      </button>
      <span class="names">
        <EditableName class="called" :name="one.name" label="Name where it is handed off" @rename="(name) => set({ name })" />
        <span class="quiet from" :class="{ gone: !one.from }">{{ one.from || 'deleted; what was set of it is kept' }}</span>
      </span>
      <span class="limits">
        <template v-if="numeric && spec">
          <NInputNumber
            size="tiny"
            clearable
            :show-button="false"
            :value="offer.min ?? null"
            :placeholder="String(spec.softMin)"
            :input-props="{ 'aria-label': `${one.name}, at least` }"
            @update:value="(min: number | null) => set({ min: min ?? undefined })"
          /><span class="quiet">to</span
          ><NInputNumber
            size="tiny"
            clearable
            :show-button="false"
            :value="offer.max ?? null"
            :placeholder="String(spec.softMax)"
            :input-props="{ 'aria-label': `${one.name}, at most` }"
            @update:value="(max: number | null) => set({ max: max ?? undefined })"
          /><span class="quiet unit">{{ spec.unit }}</span>
        </template>
        <template v-else-if="control?.kind === 'text'">
          <span class="quiet">at most</span
          ><NInputNumber
            size="tiny"
            clearable
            :show-button="false"
            :min="1"
            :value="offer.max ?? null"
            placeholder="any"
            :input-props="{ 'aria-label': `${one.name}, letters at most` }"
            @update:value="(max: number | null) => set({ max: max ?? undefined })"
          /><span class="quiet unit">letters</span>
        </template>
      </span>
      <label class="pins" :title="`Whether ${one.name} may be pinned where it is handed off`"
        ><input
          type="checkbox"
          :checked="!offer.noPins"
          :aria-label="`${one.name} may be pinned`"
          @change="set({ noPins: !offer.noPins })"
        />pins</label
      >
      <MenuList trigger="click" placement="bottom-end" :options="options" @select="choose"
        ><button class="plain more" :aria-label="`More about ${one.name}`">⋯</button></MenuList
      >
      <button
        class="plain more"
        :aria-label="`Hand off ${one.name} no longer`"
        title="Hand off no longer"
        @click="offers.withdraw(offer.id)"
      >
        <IconClose aria-hidden="true" />
      </button>
    </div>
    <p v-if="note || noting || begins" class="said">
      <input
        v-if="noting"
        class="field"
        :value="note"
        placeholder="A note below it"
        :aria-label="`Note of ${one.name}`"
        maxlength="2000"
        @vue:mounted="(v: { el: HTMLInputElement }) => v.el.focus()"
        @blur="keepNote"
        @keydown.enter.stop="($event.target as HTMLInputElement).blur()"
        @keydown.esc.stop="noting = false"
      />
      <template v-else>{{ [note, begins].filter(Boolean).join(' · ') }}</template>
    </p>
  </li>
</template>

<style scoped>
li {
  border-bottom: 1px solid var(--line);
  padding: 2px 0;
}
h4 {
  font-family: var(--face-heading);
  font-size: 14px;
  margin: 8px 0 2px 28px;
  display: flex;
}
.row {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) 224px 56px 24px 24px;
  gap: 6px;
  align-items: center;
  min-height: 30px;
}
.handle,
.more {
  min-height: 24px;
  display: grid;
  place-items: center;
  border-radius: 3px;
  color: var(--ink2);
}
.handle {
  cursor: grab;
  touch-action: none;
}
.handle:hover,
.more:hover {
  background: var(--picked);
  color: var(--ink);
}
.names {
  display: flex;
  align-items: baseline;
  gap: 8px;
  min-width: 0;
}
.from {
  font-size: 11px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.gone {
  color: var(--oxblood);
}
.called {
  flex: none;
  max-width: 60%;
}
.limits {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 4px;
  font-size: 12px;
}
.limits :deep(.n-input-number) {
  width: 72px;
}
.unit {
  min-width: 20px;
}
.pins {
  display: flex;
  align-items: center;
  gap: 4px;
  font-size: 12px;
  min-height: 24px;
}
.pins input {
  accent-color: var(--brass);
  margin: 0;
}
.said {
  margin: 0 0 4px 28px;
  font-size: 12px;
  color: var(--ink2);
}
.field {
  font: inherit;
  width: 100%;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--brass);
  border-radius: 4px;
  padding: 1px 4px;
}
</style>
