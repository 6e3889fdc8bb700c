<script setup lang="ts">
import { NModal } from 'naive-ui'
import { nextTick, useId, useTemplateRef, watch } from 'vue'
import IconClose from '~icons/tabler/x'

/**
 * A dialog over the page: its title, its content, its buttons. Esc, and a press beside it, close it. Its root is a div, since that is what
 * the library keeps the focus in.
 */
const props = defineProps<{ show: boolean; title: string; width?: number; high?: boolean; aside?: boolean }>()
const emit = defineEmits<{ close: []; left: []; enter: [] }>()
const id = useId()

// One that stands aside leaves the page to the hand; it takes the keys as it opens, and gives them back where it has them still.
const dialog = useTemplateRef<HTMLElement>('dialog')
let before: Element | null = null
watch(
  () => props.show,
  async (open) => {
    if (!props.aside) return
    const at = document.activeElement
    if (open) {
      before = at
      await nextTick()
      setTimeout(() => dialog.value?.contains(document.activeElement) || dialog.value?.focus())
    } else if (at === document.body || dialog.value?.contains(at)) {
      const back = before instanceof HTMLElement && before.isConnected && before !== document.body ? before : null
      void nextTick(() => back?.focus())
    }
  },
)

/** Enter in a field does what the dialog is for, as in a form. */
function enter(event: KeyboardEvent): void {
  if (!(event.target instanceof HTMLInputElement) || event.target.closest('form, [role=combobox]')) return
  event.preventDefault() // or it presses what has the keys once this has closed
  emit('enter')
}

/** A press on a number field selects what is in it, so that what is typed takes its place. */
let entered: EventTarget | null = null
function press(event: MouseEvent): void {
  const field = event.target
  if (
    entered === field &&
    field instanceof HTMLInputElement &&
    field.closest('.n-input-number') &&
    field.selectionStart === field.selectionEnd
  )
    field.select()
  entered = null
}
</script>

<template>
  <NModal :show="show" :show-mask="!aside" :trap-focus="!aside" @update:show="emit('close')" @after-leave="emit('left')">
    <div
      ref="dialog"
      class="dialog"
      :tabindex="aside ? -1 : undefined"
      :class="{ high, aside }"
      role="dialog"
      :aria-modal="aside ? undefined : true"
      :aria-labelledby="id"
      :style="{ width: (width ?? 420) + 'px' }"
      @keydown.esc="aside && emit('close')"
      @keydown.enter="enter"
      @focusin="entered = $event.target"
      @click="press"
    >
      <h2 :id="id">{{ title }}</h2>
      <slot />
      <footer v-if="$slots.footer"><slot name="footer" /></footer>
      <button class="plain close" aria-label="Close" @click="emit('close')"><IconClose aria-hidden="true" /></button>
    </div>
  </NModal>
</template>

<style scoped>
.dialog {
  position: relative;
  max-width: calc(100vw - 32px);
  max-height: calc(100vh - 32px);
  overflow: auto;
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  padding: 14px 16px 16px;
}
/* A search stands near the top, and does not jump while its list grows. */
.high {
  position: fixed;
  top: min(80px, 4vh);
  left: 0;
  right: 0;
  margin: 0 auto;
}
/* One whose changes are seen in the picture stands beside it. */
.aside {
  position: fixed;
  right: 16px;
  bottom: 16px;
  margin: 0;
}
h2 {
  font-size: 16px;
  margin: 0 32px 12px 0;
}
/* Last, so that what is to be filled in comes first. */
.close {
  position: absolute;
  top: 12px;
  right: 12px;
  width: 26px;
  height: 26px;
  display: grid;
  place-items: center;
  border-radius: 4px;
}
.close:hover {
  background: var(--picked);
}
footer {
  margin-top: 14px;
}
</style>
