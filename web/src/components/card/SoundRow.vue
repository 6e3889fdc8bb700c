<script setup lang="ts">
import type { Id, Sound } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import ValueField from '@/components/shared/ValueField.vue'

/** How long a sound is, and the frame that it begins at. */
const props = defineProps<{ item: Id; sound: Sound }>()
const doc = useDocument()
const playback = usePlayback()

const begin = (start: number) => ({ op: 'sound.start' as const, item: props.item, start: Math.round(start) })
</script>

<template>
  <div class="row">
    <span class="name">begins at frame</span>
    <ValueField
      :value="sound.start ?? 0"
      :rate="playback.rate"
      :step="1"
      label="Frame that the sound begins at"
      @preview="(f) => doc.preview('operations', { ops: doc.here(begin(f)) })"
      @commit="(f) => doc.operations(begin(f))"
      @cancel="doc.cancelPreview"
    />
    <span class="quiet figures">{{ sound.seconds.toFixed(1) }} s long</span>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 2px 12px 2px 50px;
  min-height: 28px;
  font-size: 12px;
}
.name {
  flex: none;
}
</style>
