<script setup lang="ts">
import { useBeginnings } from '@/composables/beginnings'
import { useWorkspace } from '@/stores/workspace'

/** The next of the first steps, where the Desk, which lists them all, is not seen. */
const workspace = useWorkspace()
const { steps, next, shown, chosen, close } = useBeginnings()
</script>

<template>
  <p v-if="shown && chosen && workspace.tab !== 'desk' && steps[next]" class="next" role="status">
    <span class="quiet">Step {{ next + 1 }} of {{ steps.length }}</span>
    <span class="text">{{ steps[next].text }}</span>
    <button class="plain act" @click="workspace.tab = 'desk'">All steps</button>
    <button class="plain act" @click="close">Hide</button>
  </p>
</template>

<style scoped>
.next {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0;
  padding: 3px 12px;
  border-top: 1px solid var(--line);
  background: var(--sunk);
  user-select: none;
}
.quiet {
  white-space: nowrap;
}
.text {
  flex: 1;
}
.act {
  color: var(--brassText);
  padding: 0 6px;
  min-height: 24px;
  white-space: nowrap;
}
</style>
