<script setup lang="ts">
import { NModal, NSwitch } from 'naive-ui'
import { sheet } from '@/composables/keys'
import { useWorkspace } from '@/stores/workspace'

const workspace = useWorkspace()
</script>

<template>
  <NModal
    v-model:show="workspace.keysShown"
    preset="card"
    title="Keyboard shortcuts"
    class="keys"
    :bordered="false"
    size="small"
    style="width: 420px"
  >
    <table>
      <tbody>
        <tr v-for="k in sheet" :key="k.keys">
          <th scope="row" class="figures">{{ k.keys }}</th>
          <td>{{ k.what }}</td>
        </tr>
      </tbody>
    </table>
    <label class="letters"><NSwitch v-model:value="workspace.letterKeys" size="small" /> Shortcuts of a single letter or digit</label>
  </NModal>
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
