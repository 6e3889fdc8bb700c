<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { NDropdown, type DropdownOption } from 'naive-ui'
import { cloneVNode, nextTick, ref, useId, useSlots } from 'vue'

/** A menu, with the roles that screen readers know it by. All else goes to the component library's dropdown. */
defineOptions({ inheritAttrs: false })
const slots = useSlots()
const shown = ref(false)
const id = useId()
/** The entry that the arrow keys are at: the focus stays on what opened the menu. */
const at = ref<string>()

/** What opens it says that it does, and where the arrow keys are. */
const Trigger = (): ReturnType<typeof cloneVNode> | undefined => {
  const node = slots.default?.()[0]
  return node && cloneVNode(node, { 'aria-haspopup': 'menu', 'aria-expanded': shown.value, 'aria-activedescendant': at.value })
}

function show(now: boolean): void {
  shown.value = now
  at.value = undefined
}

// A press beside it closes it, also one on a field or a fader, which the library does not hear of.
useEventListener(
  () => (shown.value ? window : null),
  'pointerdown',
  (e) => {
    if (!(e.target as Element).closest('.n-dropdown-menu, [aria-haspopup=menu][aria-expanded=true]')) show(false)
  },
  { capture: true },
)

useEventListener(
  () => (shown.value ? window : null),
  'keydown',
  async (e) => {
    if ((e as KeyboardEvent).key === 'Tab') return show(false)
    await nextTick()
    const entries = [...document.querySelectorAll(`[id^="${id}-"] > .n-dropdown-option-body--pending`)]
    at.value = entries[entries.length - 1]?.parentElement?.id
  },
)
</script>

<template>
  <NDropdown
    v-bind="$attrs"
    :show="($attrs.show as boolean | undefined) ?? shown"
    :menu-props="() => ({ role: 'menu' })"
    :node-props="
      (option: DropdownOption) => ({
        role: 'menuitem',
        id: `${id}-${option.key}`,
        'aria-disabled': option.disabled ? 'true' : undefined,
      })
    "
    @update:show="show"
    ><Trigger v-if="$slots.default"
  /></NDropdown>
</template>
