import { nextTick } from 'vue'
import { written } from './hand'

/** How long an editor that was asked for may take to come, in milliseconds. */
const patience = 5000

let leave: (() => void) | null = null
/** What was typed since. */
let kept: { key: string; code: string; shiftKey: boolean }[] = []

/** Writes in a field. An editor that keeps a text of its own says so by taking the event. */
function write(field: Element, text: string): void {
  const typed = new CustomEvent('typed', { detail: text, bubbles: true, cancelable: true })
  if (field.dispatchEvent(typed)) document.execCommand('insertText', false, text)
}

/**
 * Keeps what is typed from now on for an editor that was asked for and is not there yet: it goes to the first field that gets the focus,
 * and to no shortcut. Esc gives up waiting, and so does who asked for an editor that does not come. Who waits for something else first
 * may say so before: what is kept already is handed on. Whether it is still wanted when it is ready is to be asked.
 */
export function typeAhead(): { up: () => void; wanted: () => boolean } {
  const before = leave ? kept : []
  leave?.()
  kept = before
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
    else kept.push({ key: event.key, code: event.code, shiftKey: event.shiftKey })
  }

  async function give(event: FocusEvent): Promise<void> {
    const field = event.target as HTMLElement
    if (!written(field)) return
    leave?.()
    const keys = kept
    await nextTick() // whoever focused it may mark what is in it
    while (keys.length) {
      if (document.activeElement !== field) return
      const enter = keys.findIndex((k) => k.key === 'Enter')
      const text = keys.splice(0, enter < 0 ? keys.length : enter).map((k) => k.key)
      if (text.length) write(field, text.join(''))
      await nextTick()
      const pressed = keys.shift()
      if (pressed) field.dispatchEvent(new KeyboardEvent('keydown', { ...pressed, bubbles: true, cancelable: true }))
      await nextTick()
    }
  }
  window.addEventListener('pointerdown', () => leave?.(), { capture: true, signal })
  window.addEventListener('keydown', keep, { capture: true, signal })
  window.addEventListener('focusin', (event) => void give(event), { signal })
  return { up: () => void (!signal.aborted && leave?.()), wanted: () => !signal.aborted }
}

/** The same, as a part of what asks for the editor. */
export const typing = (ask: () => unknown) => (): void => {
  typeAhead()
  ask()
}
