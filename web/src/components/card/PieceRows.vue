<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed } from 'vue'
import { useItemCommands } from '@/composables/itemCommands'
import { fitting } from '@/composables/pieces'
import type { Item } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** The composition that pieces show, the way to it, and what was set of controls that it doesn't hand off any more. */
const props = defineProps<{ items: Item[] }>()
const doc = useDocument()
const selection = useSelection()
const commands = useItemCommands()

/** The one that all of them show, or none. */
const shows = computed(() => {
  const [first, ...rest] = props.items.map((i) => i.piece?.composition)
  return rest.every((id) => id === first) ? first : undefined
})
const there = computed(() => doc.compositions.find((c) => c.id === shows.value))
const choices = computed(() => fitting(doc.compositions, doc.compositionId).map((c) => ({ label: c.name, value: c.id })))

async function open(): Promise<void> {
  if (!there.value) return
  const { id } = there.value
  selection.clear()
  await doc.select(id)
}

/** What was set and counts for nothing now. */
const kept = computed(() => {
  if (props.items.length !== 1) return []
  const [item] = props.items as [Item]
  const known = new Set(doc.specsOf(item).map((s) => s.key))
  return Object.keys(doc.statesOf(item.id)).filter((key) => !known.has(key) && !key.startsWith('weight:'))
})
const forget = (): void => void doc.gesture('forget', { item: props.items[0]?.id ?? '' })
</script>

<template>
  <div class="row">
    <span class="name">composition</span>
    <span class="space" />
    <ChoiceField
      class="of"
      size="tiny"
      :value="there ? shows : null"
      :options="choices"
      :placeholder="shows && !there ? 'deleted' : 'mixed'"
      label="The composition that the piece shows"
      @update:value="(to: string) => doc.gesture('show another', { pieces: items.map((i) => i.id), shows: to })"
    />
    <button class="plain action" :disabled="!there" title="Open the composition that it shows" @click="open">Open</button>
  </div>
  <div v-if="items.length === 1 && there" class="row">
    <NButton size="tiny" @click="commands.make('break up', { item: items[0]?.id ?? '' })">Break up into items</NButton>
  </div>
  <p v-if="shows && !there" class="note">Its composition was deleted, so it shows nothing. Choose another one, or undo.</p>
  <p v-else-if="there && !there.offered?.length" class="note">
    {{ there.name }} hands no controls off, so all its pieces look alike. Open it and press Hand off to choose some.
  </p>
  <p v-if="kept.length" class="note">
    {{ kept.length === 1 ? 'A value is' : `${kept.length} values are` }} kept for controls that are no longer handed off.
    <button class="plain action" @click="forget">Remove</button>
  </p>
</template>

<style scoped src="./parts.css" />

<style scoped>
.of {
  width: 130px;
}
.action:disabled {
  opacity: 0.5;
}
.note {
  margin: 2px 12px 4px;
  color: var(--ink2);
  font-size: 12px;
}
</style>
