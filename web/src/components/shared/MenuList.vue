<script setup lang="ts">
import { useEventListener, useMediaQuery } from '@vueuse/core'
import { NDropdown, type DropdownOption } from 'naive-ui'
import { cloneVNode, nextTick, onMounted, ref, useId, useSlots, watch } from 'vue'

/** A menu, with the roles that screen readers know it by. All else goes to the component library's dropdown. */
defineOptions({ inheritAttrs: false })
const slots = useSlots()
const shown = ref(false)
const id = useId()
/** Whether the window is so low that a menu has to scroll. */
const low = useMediaQuery('(max-height: 520px)')
/** The entry that the arrow keys are at: the focus stays on what opened the menu. */
const at = ref<string>()

/** What opens it says that it does, and where the arrow keys are. */
const Trigger = (): ReturnType<typeof cloneVNode> | undefined => {
  const node = slots.default?.()[0]
  return node && cloneVNode(node, { 'aria-haspopup': 'menu', 'aria-expanded': shown.value, 'aria-activedescendant': at.value })
}

// The arrows that say that an entry has more are pictures without a name.
const bare = (): void =>
  document.querySelectorAll('.n-dropdown-option-body__suffix [role=img]').forEach((arrow) => arrow.setAttribute('aria-hidden', 'true'))
watch(shown, () => setTimeout(bare))
onMounted(() => setTimeout(bare))

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
    :scrollable="low"
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
