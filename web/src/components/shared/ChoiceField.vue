<script setup lang="ts">
import { NSelect } from 'naive-ui'

/** A list to choose from, with its name for screen readers. All else goes to the component library's select. */
defineOptions({ inheritAttrs: false })
defineProps<{ label: string }>()
</script>

<template>
  <NSelect v-bind="$attrs" :aria-label="'filterable' in $attrs ? undefined : label" :input-props="{ 'aria-label': label }"
    ><template #empty>No matches</template></NSelect
  >
</template>
