<script setup lang="ts">
import { core } from '@/core/client'

/** Says that the core takes its time over something; where it takes too long, offers to start it anew. */
</script>

<template>
  <div v-if="core.pace.value !== 'well'" class="watch" role="status">
    <template v-if="core.pace.value === 'working'">Working on it…</template>
    <template v-else>
      This takes very long. You can wait, or give up what is being worked on: everything that was saved stays.
      <button class="plain" @click="core.startAnew">Start anew</button>
    </template>
  </div>
</template>

<style scoped>
.watch {
  position: fixed;
  top: 52px;
  left: 50%;
  transform: translateX(-50%);
  z-index: 3000;
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 6px 12px;
  background: var(--card);
  border: 1px solid var(--brass);
  border-radius: var(--radius);
  font-size: 12px;
}
button {
  padding: 0 8px;
  min-height: 24px;
  border: 1px solid var(--brass);
  color: var(--brassText);
  border-radius: 3px;
}
</style>
