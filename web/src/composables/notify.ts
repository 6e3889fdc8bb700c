import { createDiscreteApi, darkTheme, type DialogOptions } from 'naive-ui'
import { computed, h, nextTick } from 'vue'
import { overrides } from '@/theme'
import { themeName } from './theme'

const provider = computed(() => ({ theme: themeName.value === 'lamplight' ? darkTheme : null, themeOverrides: overrides(themeName.value) }))

/** Messages and questions from anywhere, in our colours. */
const { message, dialog: dialogs } = createDiscreteApi(['message', 'dialog'], {
  configProviderProps: provider,
  messageProviderProps: { placement: 'bottom', keepAliveOnHover: true },
})

export { message }

/** Asks something, or shows what is to be read. The library leaves its dialogs without a name: they are called by their title. */
export function dialog(sort: 'info' | 'warning', options: DialogOptions & { title: string }): void {
  dialogs[sort](options)
  void nextTick(() => {
    for (const e of document.querySelectorAll('.n-dialog:not([aria-label])')) e.setAttribute('aria-label', options.title)
  })
}

/** An error of any sort as a sentence. */
export const worded = (error: unknown): string => sentence(error instanceof Error ? error.message : String(error))

/** Shows an error of any sort. */
export function tell(error: unknown): void {
  message.error(() => h('span', { role: 'alert' }, worded(error)), { duration: 8000, closable: true })
}

let before: { text: string; shown: { destroy: () => void } } | null = null // what was said last

/**
 * Says what a gesture came to, with what can be done about it where there is something: to take it back, if nothing else is said. The same
 * again takes the place of what was said before.
 */
export function said(text: string, act?: () => unknown, label = 'Undo'): void {
  if (before?.text === text) before.shown.destroy()
  const shown = act
    ? message.info(
        () =>
          h('span', { class: 'said', role: 'status' }, [
            text,
            h(
              'button',
              {
                class: 'plain undo',
                onClick: () => {
                  void act()
                  shown.destroy()
                },
              },
              label,
            ),
          ]),
        { duration: 10000 },
      )
    : message.info(() => h('span', { role: 'status' }, text), { duration: 6000 })
  before = { text, shown }
}

/** Starts with a capital letter and ends with a full stop. */
export function sentence(text: string): string {
  const s = text.charAt(0).toUpperCase() + text.slice(1)
  return /[.!?…:]$/.test(s) ? s : s + '.'
}

/** Shows a sentence with a list of what it is about, to be read in peace. */
export function report(text: string, details: string[]): void {
  dialog('info', {
    title: sentence(text),
    content: () =>
      h(
        'ul',
        { class: 'report' },
        details.map((d) => h('li', d)),
      ),
    positiveText: 'Close',
    closable: false,
  })
}
