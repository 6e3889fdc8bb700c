<script setup lang="ts">
import { computed, ref } from 'vue'
import { useDocument } from '@/stores/document'

/** All functions of the language, sought by name or by what they do; pressing an example puts it into the formula. */
const emit = defineEmits<{ insert: [text: string] }>()
const doc = useDocument()
const sought = ref('')
const found = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean)
  return doc.catalogue.functions.filter((f) => words.every((w) => `${f.name} ${f.help} ${f.group}`.toLowerCase().includes(w)))
})
</script>

<template>
  <div class="functions">
    <input v-model="sought" type="search" placeholder="Search functions" aria-label="Search functions" @keydown.stop />
    <ul aria-label="Functions">
      <li v-for="f in found" :key="f.name">
        <button class="plain figures" :title="`Insert ${f.example}`" @click="emit('insert', f.example)">{{ f.usage }}</button>
        <span class="quiet">{{ f.help }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
input {
  min-height: 24px;
  width: 100%;
  font: inherit;
  font-size: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  padding: 2px 6px;
  margin-top: 4px;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  font-size: 12px;
}
li {
  display: grid;
  padding: 2px 0;
}
li button {
  color: var(--brassText);
  text-align: left;
  min-height: 24px;
}
</style>
