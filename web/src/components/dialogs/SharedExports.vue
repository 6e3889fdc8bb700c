<script setup lang="ts">
import { NProgress } from 'naive-ui'
import { percentOf, roughly } from '@/composables/format'
import { useShared } from '@/stores/shared'
import type { SharedExport } from '@/net/api'

/** The exports of the project that the server makes, and those that wait to be fetched. */
const shared = useShared()

function says(e: SharedExport): string {
  if (e.state === 'waiting') return 'waiting for its turn'
  if (e.state === 'ready') return 'ready'
  if (e.state === 'failed') return e.error ?? 'failed'
  const by = e.workers ? `, ${e.workers} ${e.workers === 1 ? 'worker' : 'workers'}` : ''
  return `frame ${e.done} of ${e.of}${by}${e.left ? ` · about ${roughly(e.left)} left` : ''}`
}
</script>

<template>
  <section v-if="shared.all.length" class="shared" aria-label="Exports on the server">
    <h3>On the server</h3>
    <ul>
      <li v-for="e in shared.all" :key="e.id">
        <b>{{ e.name }}</b>
        <span class="quiet says" :class="{ wrong: e.state === 'failed' }" role="status">{{ says(e) }}</span>
        <NProgress
          v-if="e.state === 'making'"
          type="line"
          :percentage="percentOf(e.done, e.of)"
          :show-indicator="false"
          :height="6"
          :aria-label="`Progress of ${e.name}`"
        />
        <button v-if="e.state === 'ready'" class="plain action" @click="shared.fetchFile(e)">Download</button>
        <button class="plain action" @click="shared.drop(e)">
          {{ e.state === 'ready' || e.state === 'failed' ? 'Remove' : 'Cancel' }}
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.shared {
  margin-top: 12px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
h3 {
  font: inherit;
  font-size: 12px;
  color: var(--ink2);
  margin: 0 0 4px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 120px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: minmax(0, auto) 1fr 160px auto auto;
  gap: 10px;
  align-items: center;
  min-height: 26px;
}
.says {
  grid-column: 2 / 3;
}
li > .n-progress {
  grid-column: 3 / 4;
}
.action {
  color: var(--brassText);
  min-height: 24px;
}
.wrong {
  color: var(--oxblood);
}
</style>
