<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { core } from '@/core/client'
import type { Id, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'

/** A small picture of the composition as it is where a control stands at a stop. */
const props = defineProps<{ item: Id; control: Id; value: Value }>()
const doc = useDocument()
const playback = usePlayback()
const picture = ref('')

/** Above so many items no pictures are made: each is worked out from nothing. */
const most = 1500

const rested = refDebounced(
  computed(() => doc.rested),
  250,
)
const value = computed(() => JSON.stringify(props.value))
watch(
  [rested, value, () => props.item, () => props.control],
  async () => {
    if (doc.order.length > most) return void (picture.value = '')
    const settings = [{ ref: { item: props.item, property: props.control }, value: props.value }]
    const { result } = await core.ask('moment', { frame: playback.frame, settings })
    picture.value = result ? 'data:image/svg+xml,' + encodeURIComponent(result) : ''
  },
  { immediate: true },
)
</script>

<template>
  <img v-if="picture" :src="picture" alt="" />
</template>

<style scoped>
img {
  display: block;
  width: 76px;
  height: 43px;
  flex: none;
  object-fit: contain;
  background: var(--ground);
  border: 1px solid var(--line);
  border-radius: 3px;
}
</style>
