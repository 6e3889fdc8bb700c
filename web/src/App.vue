<script setup lang="ts">
import { darkTheme, NConfigProvider } from 'naive-ui'
import { computed } from 'vue'
import { themeName } from './composables/theme'
import { overrides } from './theme'

const themed = computed(() => overrides(themeName.value))
</script>

<template>
  <NConfigProvider :theme="themeName === 'lamplight' ? darkTheme : null" :theme-overrides="themed" abstract>
    <RouterView />
  </NConfigProvider>
</template>
