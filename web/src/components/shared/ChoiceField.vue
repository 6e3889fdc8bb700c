<script setup lang="ts">
import { useEventListener, useMutationObserver } from '@vueuse/core'
import { NSelect, type SelectOption } from 'naive-ui'
import { computed, nextTick, ref, useId, useTemplateRef, watchEffect } from 'vue'

/** A list to choose from: a combobox with its name, for screen readers. All else goes to the component library's select. */
defineOptions({ inheritAttrs: false })
// Without a value nothing is chosen: the component library would go on showing what was chosen before.
const props = withDefaults(defineProps<{ label: string; value?: string | number | null }>(), { value: null })
const id = useId()
const field = useTemplateRef<InstanceType<typeof NSelect>>('field')
const shown = ref(false)
/** The entry that the arrow keys are at: the focus stays on the field. */
const at = ref<string>()
const drawn = ref(0)
const root = computed(() => field.value?.$el as HTMLElement | undefined)
// The library draws what takes the focus anew as it is searched in.
useMutationObserver(root, () => drawn.value++, { childList: true, subtree: true })

watchEffect(
  () => {
    const said: Record<string, string | undefined> = {
      role: 'combobox',
      'aria-label': props.label,
      'aria-haspopup': 'listbox',
      'aria-expanded': String(shown.value),
      'aria-controls': shown.value ? `${id}-list` : undefined,
      'aria-activedescendant': shown.value ? at.value : undefined,
    }
    void drawn.value
    const around = root.value?.querySelector('.n-base-selection-label')
    const input = root.value?.querySelector('input.n-base-selection-input')
    root.value?.querySelector('.n-base-suffix')?.setAttribute('aria-hidden', 'true') // an arrow, which is called "loading"
    const keyed = shown.value && input ? input : around // what has the focus
    if (keyed === input) input?.removeAttribute('aria-hidden')
    else input?.setAttribute('aria-hidden', 'true')
    for (const on of [around, input])
      for (const [name, value] of Object.entries(said)) {
        if (value === undefined || on !== keyed) on?.removeAttribute(name)
        else on?.setAttribute(name, value)
      }
  },
  { flush: 'post' },
)

function show(now: boolean): void {
  shown.value = now
  at.value = undefined
}
const entry = (o: SelectOption): string => `${id}-${String(o.value)}`
useEventListener(
  () => (shown.value ? window : null),
  'keydown',
  async () => {
    await nextTick()
    at.value = document.querySelector(`[id^="${id}-"].n-base-select-option--pending`)?.id
  },
)
</script>

<template>
  <NSelect
    v-bind="$attrs"
    ref="field"
    :value="value"
    :menu-props="{ id: `${id}-list`, role: 'listbox', 'aria-label': shown ? label : undefined }"
    :node-props="(o) => ({ role: 'option', id: entry(o as SelectOption), 'aria-selected': (o as SelectOption).value === value })"
    @update:show="show"
    ><template #empty>No matches</template></NSelect
  >
</template>
