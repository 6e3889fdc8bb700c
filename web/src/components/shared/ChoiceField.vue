<script setup lang="ts">
import { NSelect } from 'naive-ui'

/** A list to choose from, with its name for screen readers. All else goes to the component library's select. */
defineOptions({ inheritAttrs: false })
// Without a value nothing is chosen: the component library would go on showing what was chosen before.
withDefaults(defineProps<{ label: string; value?: string | number | null }>(), { value: null })
</script>

<template>
  <NSelect v-bind="$attrs" :value="value" :aria-label="'filterable' in $attrs ? undefined : label" :input-props="{ 'aria-label': label }"
    ><template #empty>No matches</template></NSelect
  >
</template>
