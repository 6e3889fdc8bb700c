<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import IconLock from '~icons/tabler/lock'
import { said, tell } from '@/composables/notify'
import { api, type HandOffAddress } from '@/net/api'
import { useDocument } from '@/stores/document'

/** Where the composition is reached by whoever gets it: addresses, each of which can be withdrawn, and the readings that were made. */
const doc = useDocument()
const all = ref<HandOffAddress[]>([])
const name = ref('')
const password = ref('')

const readings = computed(() => doc.compositions.filter((c) => c.reading === doc.compositionId))
const preview = computed(() => `/project/${doc.project}/hand-off/${doc.compositionId}`)
const whole = (a: HandOffAddress): string => `${location.origin}/hand-off/${a.token}`

async function look(): Promise<void> {
  try {
    all.value = await api.addresses(doc.project, doc.compositionId)
  } catch (error) {
    tell(error)
  }
}
watch(() => doc.compositionId, look, { immediate: true })

async function make(): Promise<void> {
  try {
    const made = await api.newAddress(doc.project, doc.compositionId, name.value.trim() || 'Anybody', password.value)
    all.value.push(made)
    name.value = password.value = ''
    await copy(made)
  } catch (error) {
    tell(error)
  }
}
async function copy(a: HandOffAddress): Promise<void> {
  try {
    await navigator.clipboard.writeText(whole(a))
    said(`The address for ${a.name} is copied.`)
  } catch {
    said(whole(a)) // where the browser keeps its clipboard to itself
  }
}
async function withdraw(a: HandOffAddress): Promise<void> {
  try {
    await api.withdraw(doc.project, a.token)
    all.value = all.value.filter((one) => one.token !== a.token)
    said(`${a.name} reaches nothing any more. What was set in readings is kept.`)
  } catch (error) {
    tell(error)
  }
}
</script>

<template>
  <section aria-label="Addresses">
    <ul v-if="all.length">
      <li v-for="a in all" :key="a.token">
        <span class="who">{{ a.name }}</span>
        <IconLock v-if="a.locked" class="lock" aria-label="with a password" />
        <a class="figures" :href="whole(a)" target="_blank" rel="noopener">…/hand-off/{{ a.token.slice(0, 6) }}…</a>
        <button class="plain act" :aria-label="`Copy the address for ${a.name}`" @click="copy(a)">Copy</button>
        <button class="plain act" :aria-label="`Withdraw the address for ${a.name}`" @click="withdraw(a)">Withdraw</button>
      </li>
    </ul>
    <form class="make" @submit.prevent="make">
      <input v-model="name" class="field" maxlength="200" placeholder="For whom" aria-label="For whom the address is" @keydown.stop />
      <input
        v-model="password"
        class="field"
        type="password"
        maxlength="200"
        autocomplete="new-password"
        placeholder="Password, if you like"
        aria-label="Password of the address"
        @keydown.stop
      />
      <NButton size="small" attr-type="submit">New address</NButton>
      <a class="seen" :href="preview" target="_blank" rel="noopener">Preview</a>
    </form>
    <ul v-if="readings.length" class="readings" aria-label="Readings">
      <li v-for="c in readings" :key="c.id">
        <span class="who"
          >Reading <a :href="`${preview}?reading=${c.id}`" target="_blank" rel="noopener">{{ c.name }}</a></span
        >
        <button
          class="plain act"
          :aria-label="`Apply ${c.name} to ${doc.composition?.name ?? ''}`"
          title="Set and pin the controls of this composition as the reading has them"
          @click="doc.gesture('apply reading', { reading: c.id })"
        >
          Apply
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  flex: none;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
ul {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
  max-height: 96px;
  overflow: hidden auto;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 26px;
  font-size: 12px;
}
.who {
  line-height: 24px;
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 13px;
}
.lock {
  color: var(--ink2);
}
.act,
a {
  color: var(--brassText);
}
.act {
  min-height: 24px;
  padding: 0 6px;
  border-radius: 3px;
}
.act:hover {
  background: var(--picked);
}
.make {
  display: flex;
  align-items: center;
  gap: 8px;
}
.field {
  flex: 1;
  min-width: 0;
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--track);
  border-radius: 4px;
  padding: 2px 6px;
  min-height: 28px;
}
.seen {
  padding: 0 4px;
}
.readings {
  margin: 6px 0 0;
}
</style>
