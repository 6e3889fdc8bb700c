<script setup lang="ts">
import { NButton } from 'naive-ui'
import { ref } from 'vue'
import { api } from '@/net/api'

/** Asks for the password of an address. */
const props = defineProps<{ address: string }>()
const emit = defineEmits<{ in: [] }>()
const password = ref('')
const wrong = ref('')
async function enter(): Promise<void> {
  try {
    await api.enter(props.address, password.value)
    emit('in')
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <main class="door">
    <form @submit.prevent="enter">
      <h1>This hand-off has a password</h1>
      <p class="quiet">Whoever sent you the address knows it.</p>
      <p v-if="wrong" role="alert" class="wrong">{{ wrong }}</p>
      <label>Password <input v-model="password" type="password" autocomplete="current-password" required autofocus /></label>
      <NButton type="primary" attr-type="submit">Open</NButton>
    </form>
  </main>
</template>

<style scoped>
.door {
  height: 100vh;
  display: grid;
  place-content: center;
}
form {
  display: grid;
  gap: 12px;
  width: 320px;
  padding: 24px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}
h1 {
  font: 600 18px var(--face-heading);
  margin: 0;
}
p {
  margin: 0;
}
.wrong {
  color: var(--oxblood);
}
label {
  display: grid;
  gap: 4px;
}
input {
  font: inherit;
  padding: 6px 8px;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--track);
  border-radius: 4px;
}
</style>
