<script setup lang="ts">
import { useRouter } from 'vue-router'
import IconDone from '~icons/tabler/circle-check'
import IconOpen from '~icons/tabler/circle'
import { useBeginnings } from '@/composables/beginnings'
import { tell } from '@/composables/notify'
import { api } from '@/net/api'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'

/** What to do first in an empty project: three beginnings, of a few steps each, that tick themselves off. */
const doc = useDocument()
const workspace = useWorkspace()
const router = useRouter()
const { all, key, choose, steps, next, shown, controls, close } = useBeginnings()

async function example(): Promise<void> {
  try {
    await router.push('/project/' + (await api.example(false)).id)
  } catch (error) {
    tell(error)
  }
}
</script>

<template>
  <section v-if="shown" class="first" aria-label="First steps">
    <p class="ways" role="group" aria-label="Begin with">
      <span class="quiet">Begin with</span>
      <button v-for="b in all" :key="b.key" class="plain way" :aria-pressed="key === b.key" @click="choose(b.key)">{{ b.name }}</button>
    </p>
    <ol>
      <li v-for="(s, k) in steps" :key="k" :class="{ done: s.done }">
        <IconDone v-if="s.done" class="tick" aria-label="Done" /><IconOpen v-else class="tick" aria-label="To do" />
        <span>{{ s.text }}</span>
        <button v-if="s.act && k === next" class="plain act" @click="s.does">{{ s.act }}</button>
      </li>
    </ol>
    <p>
      <button class="plain act" @click="example">Open the example</button>
      <button class="plain act" @click="close">{{ next < 0 ? 'Done' : 'Hide these steps' }}</button>
    </p>
  </section>
  <p v-else-if="doc.status === 'ready' && !controls.length" class="first">
    Controls live here. <button class="plain act" @click="workspace.addingControl = true">Add the first control</button>
  </p>
</template>

<style scoped>
.first {
  position: relative;
  z-index: 4;
  background: var(--card);
  grid-column: 1 / 3;
  padding: 10px 12px;
  border-bottom: 1px solid var(--line);
}
.ways {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 0 0 6px;
}
.way {
  padding: 2px 10px;
  min-height: 24px;
  border: 1px solid var(--line);
  border-radius: 4px;
}
.way:hover {
  background: var(--picked);
}
.way[aria-pressed='true'] {
  color: var(--brassText);
  border-color: var(--brass);
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 26px;
}
.tick {
  flex: none;
  color: var(--brass);
}
.done .tick {
  color: var(--verdigris);
}
.done span {
  color: var(--ink2);
}
p {
  margin: 6px 0 0;
}
.act {
  color: var(--brassText);
  padding: 2px 6px;
  min-height: 24px;
  border-radius: 4px;
}
.act:hover {
  background: var(--picked);
}
</style>
