<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { useTrying } from '@/composables/trying'
import { useDocument } from '@/stores/document'
import ModeBand from './ModeBand.vue'

/** Over the viewport while changes are tried out: what becomes of them. */
const doc = useDocument()
const trying = useTrying()
useEventListener(window, 'beforeunload', (event) => doc.tried && event.preventDefault())
</script>

<template>
  <ModeBand v-if="doc.tried !== null">
    <template #what
      ><b>Trying out.</b>
      {{ doc.tried ? `${trying.steps()} so far, not saved.` : 'What you change now is not saved until you keep it.' }}</template
    >
    <button class="plain done" @click="trying.keep">Keep</button>
    <button class="plain" @click="trying.discard">Discard</button>
  </ModeBand>
</template>
