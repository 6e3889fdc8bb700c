<script setup lang="ts">
import { NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { hints } from '@/composables/commands'
import { useWorkspace } from '@/stores/workspace'
import ModalCard from '@/components/shared/ModalCard.vue'

const workspace = useWorkspace()
const sheet = computed(() => [...workspace.commands.filter((c) => c.keys), ...hints])
</script>

<template>
  <ModalCard :show="workspace.keysShown" title="Keyboard shortcuts" :width="420" @close="workspace.keysShown = false">
    <table>
      <tbody>
        <tr v-for="k in sheet" :key="k.keys + k.what">
          <th scope="row" class="figures">{{ k.keys }}</th>
          <td>{{ k.what }}</td>
        </tr>
      </tbody>
    </table>
    <label class="letters"
      ><NSwitch v-model:value="workspace.letterKeys" size="small" aria-label="Shortcuts of a single letter or digit" /> Shortcuts of a
      single letter or digit</label
    >
  </ModalCard>
</template>

<style scoped>
th {
  text-align: left;
  font-weight: 500;
  padding: 4px 16px 4px 0;
  color: var(--brassText);
  white-space: nowrap;
}
td {
  padding: 4px 0;
}
.letters {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 12px;
}
</style>
