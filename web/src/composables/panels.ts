import { hand } from './hand'

const focusable = 'button:enabled, input:enabled, textarea:enabled, [href], [tabindex="0"], [contenteditable]:not([contenteditable=false])'
/** What had the keys last, in each panel. */
const last = new WeakMap<Element, HTMLElement>()
const regions = 'header.bar, [data-panel]:not([data-panel] [data-panel])'
const seen = (e: Element): boolean => e.getClientRects().length > 0 && getComputedStyle(e).visibility === 'visible'

window.addEventListener('focusin', ({ target }) => {
  const region = (target as Element | null)?.closest?.(regions)
  if (region) last.set(region, target as HTMLElement)
})

/** Gives the keys to the next panel, or the one before: to what had them there last, or the first that takes them. */
export function toPanel(by: 1 | -1): void {
  const all = [...document.querySelectorAll(regions)].filter(seen)
  const at = all.findIndex((r) => r.contains(document.activeElement))
  const here = at < 0 ? all.findIndex((r) => (r as HTMLElement).dataset.panel === hand.panel) - (by > 0 ? 1 : 0) : at
  for (let k = 1; k <= all.length; k++) {
    const region = all[(here + by * k + all.length * 2) % all.length]
    if (!region) continue
    const was = last.get(region)
    const to =
      was?.isConnected && seen(was)
        ? was
        : (region.querySelector<HTMLElement>('[role=tree]') ?? [...region.querySelectorAll<HTMLElement>(focusable)].find(seen))
    if (!to) continue
    hand.byKeyboard = true
    to.focus()
    return
  }
}

/** Opens the menu of what has the keys: of the row that is selected in the tree, else the nearest around it. */
export function menuOfFocus(): void {
  const at = document.activeElement
  const row = at?.matches('[role=tree]') ? at.querySelector('[role=treeitem][aria-selected=true]') : null
  if (row) {
    const box = row.getBoundingClientRect()
    row.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, clientX: box.left + 40, clientY: box.bottom }))
    return
  }
  if (!at?.closest(regions)) return // nothing has the keys
  for (let around: Element | null = at; around && !around.matches(regions); around = around.parentElement) {
    const opener = around.matches('[aria-haspopup=menu]') ? around : around.querySelector<HTMLElement>('[aria-haspopup=menu]')
    if (!(opener instanceof HTMLElement)) continue
    hand.byKeyboard = true
    opener.focus()
    opener.click()
    return
  }
}
