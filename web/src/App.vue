<script setup lang="ts">
import { NConfigProvider } from 'naive-ui'
import { computed } from 'vue'
import { themeName } from './composables/theme'
import { overrides } from './theme'

const themed = computed(() => overrides(themeName.value))
</script>

<template>
  <NConfigProvider :theme-overrides="themed" abstract>
    <RouterView />
  </NConfigProvider>
</template>
