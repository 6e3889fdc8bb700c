<script setup lang="ts">
import { computed } from 'vue'
import { linkOperations } from '@/composables/links'
import type { Link, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import ValueField from '@/components/shared/ValueField.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** What a link does with what is below it, how much of it counts (in the slot), and how late it comes. */
const props = defineProps<{ link: Link; property: Spec }>()
const emit = defineEmits<{ preview: [what: Partial<Link>]; change: [what: Partial<Link>] }>()
const doc = useDocument()
const playback = usePlayback()
const rate = computed(() => (props.link.seconds ? playback.rate : 1))
</script>

<template>
  <div class="line">
    <ChoiceField
      v-if="!property.jumps"
      class="does"
      size="tiny"
      :value="link.operation ?? ''"
      :options="linkOperations"
      label="What the link does"
      @update:value="(operation: Link['operation']) => emit('change', { operation })"
    />
    <slot />
    <label
      >delay
      <ValueField
        label="Delay"
        :value="(link.delay ?? 0) / rate"
        :min="0"
        :step="link.seconds ? 0.1 : 1"
        @preview="(d) => emit('preview', { delay: d * rate })"
        @commit="(d) => emit('change', { delay: d * rate })"
        @cancel="doc.cancelPreview"
      />{{ link.seconds ? 's' : 'f' }}</label
    >
  </div>
</template>

<style scoped src="./editor.css" />
