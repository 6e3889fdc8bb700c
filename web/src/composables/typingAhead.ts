import { nextTick } from 'vue'
import { written } from './hand'

/** How long an editor that was asked for may take to come, in milliseconds. */
const patience = 5000

let leave: (() => void) | null = null

/**
 * Keeps what is typed from now on for an editor that was asked for and is not there yet: it goes to the first field that gets the focus,
 * and to no shortcut. Esc gives up waiting, and so does who asked for an editor that does not come.
 */
export function typeAhead(): { up: () => void } {
  leave?.()
  const kept: { text: string; shift: boolean }[] = [] // Enter is \n
  const done = new AbortController()
  const { signal } = done
  const timer = setTimeout(() => leave?.(), patience)
  leave = () => {
    clearTimeout(timer)
    done.abort()
    leave = null
  }

  function keep(event: KeyboardEvent): void {
    if (written(document.activeElement)) return leave?.() // it came without telling, as it had the focus before
    if (event.key === 'Escape') return leave?.()
    if (event.ctrlKey || event.metaKey || (event.key.length > 1 && event.key !== 'Enter' && event.key !== 'Backspace')) {
      if (event.key.length === 1) event.stopImmediatePropagation()
      return
    }
    event.preventDefault()
    event.stopImmediatePropagation()
    if (event.key === 'Backspace') kept.pop()
    else kept.push({ text: event.key === 'Enter' ? '\n' : event.key, shift: event.shiftKey })
  }

  async function give(event: FocusEvent): Promise<void> {
    const field = event.target as HTMLElement
    if (!written(field)) return
    leave?.()
    await nextTick() // whoever focused it may mark what is in it
    while (kept.length) {
      if (document.activeElement !== field) return
      const enter = kept.findIndex((key) => key.text === '\n')
      const text = kept
        .splice(0, enter < 0 ? kept.length : enter)
        .map((key) => key.text)
        .join('')
      // An editor that keeps a text of its own says so by taking the event; a field takes the text as typed.
      const typed = new CustomEvent('typed', { detail: text, bubbles: true, cancelable: true })
      if (text && field.dispatchEvent(typed)) document.execCommand('insertText', false, text)
      await nextTick()
      const pressed = kept.shift()
      if (pressed)
        field.dispatchEvent(
          new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', shiftKey: pressed.shift, bubbles: true, cancelable: true }),
        )
      await nextTick()
    }
  }
  window.addEventListener('pointerdown', () => leave?.(), { capture: true, signal })
  window.addEventListener('keydown', keep, { capture: true, signal })
  window.addEventListener('focusin', (event) => void give(event), { signal })
  return { up: () => leave?.() }
}

/** The same, as a part of what asks for the editor. */
export const typing = (ask: () => unknown) => (): void => {
  typeAhead()
  ask()
}
