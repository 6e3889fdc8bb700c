<script setup lang="ts">
import { useBringing } from '@/composables/bringing'
import type { Id, Sound } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import ValueField from '@/components/shared/ValueField.vue'

/** How long a sound is, the frame that it begins at, and the way to another one. */
const props = defineProps<{ item: Id; sound?: Sound }>()
const doc = useDocument()
const playback = usePlayback()
const bringing = useBringing()

const begin = (start: number) => ({ op: 'sound.start' as const, item: props.item, start: Math.round(start) })
const replace = (): void => bringing.choose({ target: props.item, sort: 'sound' })
</script>

<template>
  <div class="row file">
    <span v-if="!sound" class="quiet space">No sound</span>
    <span v-else class="name">begins at frame</span>
    <ValueField
      v-if="sound"
      :value="sound.start ?? 0"
      :rate="playback.rate"
      :step="1"
      label="Frame that the sound begins at"
      @preview="(f) => doc.preview('operations', { ops: doc.here(begin(f)) })"
      @commit="(f) => doc.operations(begin(f))"
      @cancel="doc.cancelPreview"
    />
    <span v-if="sound" class="quiet space">{{ sound.seconds.toFixed(1) }} s long</span>
    <button class="plain action" title="Another sound, in place of this one: what follows it goes on with that" @click="replace">
      {{ sound ? 'Replace…' : 'Choose a sound…' }}
    </button>
  </div>
</template>

<style scoped src="./parts.css" />

<style scoped>
.name {
  flex: none;
}
</style>
