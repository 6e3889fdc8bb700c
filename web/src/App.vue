<script setup lang="ts">
import { darkTheme, enUS, NConfigProvider } from 'naive-ui'
import { computed } from 'vue'
import { themeName } from './composables/theme'
import { overrides } from './theme'

/** An empty field says nothing by itself: its label does. */
const english = { ...enUS, Input: { ...enUS.Input, placeholder: '' } }
const themed = computed(() => overrides(themeName.value))
</script>

<template>
  <NConfigProvider :theme="themeName === 'lamplight' ? darkTheme : null" :theme-overrides="themed" :locale="english" abstract>
    <RouterView />
  </NConfigProvider>
</template>
