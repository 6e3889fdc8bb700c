<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { cloneVNode, ref, useSlots } from 'vue'

/** A menu, with the roles that screen readers know it by. All else goes to the component library's dropdown. */
defineOptions({ inheritAttrs: false })
const slots = useSlots()
const shown = ref(false)

/** What opens it says that it does. */
const Trigger = (): ReturnType<typeof cloneVNode> | undefined => {
  const node = slots.default?.()[0]
  return node && cloneVNode(node, { 'aria-haspopup': 'menu', 'aria-expanded': shown.value })
}
</script>

<template>
  <NDropdown
    v-bind="$attrs"
    :menu-props="() => ({ role: 'menu' })"
    :node-props="() => ({ role: 'menuitem' })"
    @update:show="(show: boolean) => (shown = show)"
    ><Trigger v-if="$slots.default"
  /></NDropdown>
</template>
