<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { NButton } from 'naive-ui'
import IconRedo from '~icons/tabler/arrow-forward-up'
import IconUndo from '~icons/tabler/arrow-back-up'
import IconLamp from '~icons/tabler/lamp'
import IconSun from '~icons/tabler/sun'
import { percentOf } from '@/composables/format'
import { dialog } from '@/composables/notify'
import { useReadings } from '@/composables/readings'
import { themeName } from '@/composables/theme'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useExporting } from '@/stores/exporting'
import { useWorkspace } from '@/stores/workspace'
import EditableName from '@/components/shared/EditableName.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** What it is, which reading is open, what it is compared with, and the way out of it as a file. */
const compared = defineModel<Id | null>('compared', { required: true })
const doc = useDocument()
const readings = useReadings()
const exporting = useExporting()
const workspace = useWorkspace()
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')
const renaming = ref(false)

const options = computed(() => [
  ...readings.list.value.map((c) => ({ key: c.id, label: c.name + (c.id === doc.compositionId ? '  ✓' : '') })),
  { key: 'd', type: 'divider' },
  { key: '+', label: 'New reading, as it was handed off' },
  { key: '=', label: 'Duplicate this reading' },
  { key: 'r', label: 'Rename…' },
  { key: '-', label: 'Delete this reading', disabled: readings.list.value.length < 2 },
])
async function choose(key: string): Promise<void> {
  const name = readings.open.value?.name ?? 'Reading'
  if (key === '+') await readings.add('Reading')
  else if (key === '=') await readings.add(`${name} copy`, readings.piece.value)
  else if (key === 'r') void naming.value?.edit()
  else if (key === '-')
    dialog('warning', {
      title: `Delete ${name}?`,
      content: 'What was set in it is deleted for everybody who uses this hand-off. You can undo this.',
      positiveText: 'Delete',
      negativeText: 'Cancel',
      onPositiveClick: () => void readings.remove(),
    })
  else await readings.select(key)
}
const others = computed(() => [
  ...readings.list.value.filter((c) => c.id !== doc.compositionId).map((c) => ({ key: c.id, label: c.name })),
  { key: readings.whole.value?.id ?? '', label: 'As it was handed off' },
  ...(compared.value ? [{ key: 'none', label: 'Stop comparing' }] : []),
])
const share = computed(() => (exporting.job ? percentOf(exporting.job.done, exporting.job.of) : null))
const saved = computed(() => ({ saved: 'Saved', saving: 'Saving…', retrying: 'Not saved. Retrying…' })[doc.saveState])
</script>

<template>
  <header>
    <h1>{{ readings.whole.value?.name }}</h1>
    <p v-if="readings.whole.value?.handOff?.note" class="quiet about" :title="readings.whole.value.handOff.note">
      {{ readings.whole.value.handOff.note }}
    </p>
    <span v-else class="quiet about">handed off to you: set what you like, the rig stays as it is</span>
    <span class="quiet" role="status" :title="doc.saveDetail">{{ saved }}</span>
    <button class="plain icon" aria-label="Undo" title="Undo · Ctrl Z" :disabled="!doc.canUndo" @click="doc.undo"><IconUndo /></button>
    <button class="plain icon" aria-label="Redo" title="Redo · Ctrl Shift Z" :disabled="!doc.canRedo" @click="doc.redo">
      <IconRedo />
    </button>
    <span class="quiet">Reading</span>
    <span class="reading" :class="{ renaming }">
      <EditableName ref="naming" label="Reading" :name="readings.open.value?.name ?? ''" @rename="readings.rename" />
      <MenuList trigger="click" placement="bottom-end" :options="options" @select="choose">
        <button class="plain open" aria-label="Readings" title="Readings: each with values and pins of its own">▾</button>
      </MenuList>
    </span>
    <MenuList trigger="click" placement="bottom-end" :options="others" @select="(key: string) => (compared = key === 'none' ? null : key)">
      <NButton size="small" :type="compared ? 'primary' : 'default'" :secondary="!!compared">Compare</NButton>
    </MenuList>
    <NButton size="small" type="primary" @click="workspace.exporting = true">{{
      share === null ? 'Export…' : `Exporting ${share} %`
    }}</NButton>
    <button
      class="plain icon"
      :aria-label="themeName === 'daylight' ? 'Switch to lamplight' : 'Switch to daylight'"
      @click="themeName = themeName === 'daylight' ? 'lamplight' : 'daylight'"
    >
      <IconLamp v-if="themeName === 'daylight'" /><IconSun v-else />
    </button>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 12px;
  height: 44px;
  border-bottom: 1px solid var(--line);
  background: var(--card);
  white-space: nowrap;
  font-size: 13px;
}
h1 {
  font: 600 16px var(--face-heading);
  margin: 0;
}
.about {
  flex: 1;
  min-width: 0;
  margin: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.reading {
  display: flex;
  align-items: center;
  gap: 2px;
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: 0 2px 0 8px;
  min-height: 28px;
  max-width: 220px;
  font-weight: 500;
}
.open {
  width: 24px;
  min-height: 24px;
  border-radius: 3px;
}
.open:hover,
.icon:hover:not(:disabled) {
  background: var(--picked);
}
.icon {
  width: 26px;
  height: 26px;
  display: grid;
  place-items: center;
  border-radius: 4px;
  font-size: 17px;
}
.icon:disabled {
  opacity: 0.4;
}
</style>
