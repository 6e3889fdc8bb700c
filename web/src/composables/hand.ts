import { reactive } from 'vue'

/** The panels of the studio, as `data-panel` names them. */
export type Panel = 'items' | 'viewport' | 'card' | 'desk' | 'poses' | 'curves' | 'ledger' | 'graph'

/** Where the hand of the user is. */
export const hand = reactive({
  /** The panel that was pressed, or reached, last. */
  panel: 'items' as Panel,
  /** Whether what has the focus was reached by keyboard. Only then arrow keys are its own. */
  byKeyboard: false,
})

/** Whether the hand is where pins are shown. */
export const atTracks = (): boolean => hand.panel === 'desk' || hand.panel === 'curves'

const settle = (target: EventTarget | null): void => {
  const panel = (target as Element | null)?.closest?.<HTMLElement>('[data-panel]')?.dataset.panel
  if (panel) hand.panel = panel as Panel
}
let pressed = -Infinity // when the pointer was pressed or let go last
const touch = (event: Event): void => {
  pressed = event.timeStamp
  hand.byKeyboard = false
}
window.addEventListener('pointerdown', (event) => (touch(event), settle(event.target)), { capture: true })
window.addEventListener('pointerup', touch, { capture: true })
window.addEventListener('focusin', (event) => {
  // What is focused long after a press was reached by a key, or by what reads the screen.
  if (event.timeStamp - pressed > 500) hand.byKeyboard = true
  if (hand.byKeyboard) settle(event.target)
})
window.addEventListener('keydown', (event) => (hand.byKeyboard ||= event.key === 'Tab'), { capture: true })

/** Whether an element takes what is typed. */
export function written(at: EventTarget | null): boolean {
  const field = (at as Element | null)?.closest?.('input:not([type=radio], [type=checkbox]), textarea, [contenteditable]')
  return !!field && !field.closest('[class*=leave-]') // what fades away has the focus a while longer, and takes no text
}

const layers = '.v-binder-follower-content, .n-modal-body-wrapper [role=dialog]'

/** What lies over the page last: a menu, a list of choices, a picker, a dialog. What fades away, or is only read, is none. */
export function layer(): HTMLElement | null {
  const open = [...document.querySelectorAll<HTMLElement>(layers)].filter(
    (l) =>
      l.getClientRects().length > 0 &&
      [...l.children].some((c) => c.getClientRects().length > 0) && // some are only hidden when they close
      !l.closest('[class*=leave-]') &&
      !l.querySelector(':scope > [class*=leave-], .n-tooltip, .passive'),
  )
  return open[open.length - 1] ?? null
}

/** The presses of Esc that close a menu or a dialog, and so nothing besides. */
export const closers = new WeakSet<Event>()

/** The name of a key by what it means: letters whatever Caps Lock or the layout say, with Ctrl and Shift before it. */
export function named(event: KeyboardEvent): string {
  let key = event.key
  const letter = /^Key([A-Z])$/.exec(event.code)?.[1]
  const digit = /^Digit(\d)$/.exec(event.code)?.[1]
  if (/^[a-z]$/i.test(key)) key = key.toLowerCase()
  else if (letter && key.length === 1 && key > '\x7f')
    key = letter.toLowerCase() // a layout without Latin letters
  else if (digit && !event.shiftKey && !/^\d$/.test(key)) key = digit // a layout that has digits with Shift
  const shift = event.shiftKey && !/^[\d?/]$/.test(key)
  return [event.ctrlKey || event.metaKey ? 'Ctrl' : '', event.altKey ? 'Alt' : '', shift ? 'Shift' : '', key].filter(Boolean).join('+')
}
