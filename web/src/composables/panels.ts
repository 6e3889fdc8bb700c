import { hand } from './hand'

const focusable = 'button:enabled, input:enabled, textarea:enabled, [href], [tabindex="0"], [contenteditable]:not([contenteditable=false])'
/** What had the keys last, in each panel. */
const last = new WeakMap<Element, HTMLElement>()
const regions = 'header.bar, [data-panel]:not([data-panel] [data-panel]), [role=dialog].aside'
const seen = (e: Element): boolean => e.getClientRects().length > 0 && getComputedStyle(e).visibility === 'visible'

/** What has the keys, and all that it lies in. */
let held: HTMLElement[] = []

window.addEventListener('focusin', ({ target }) => {
  const at = target as HTMLElement
  const region = at.closest(regions)
  if (region) last.set(region, at)
  held = []
  for (let e: HTMLElement | null = region ? at : null; e; e = e === region ? null : e.parentElement) held.push(e)
})

// Where what has the keys is taken away under them, the nearest that is left takes them, and not the page, where nothing has them.
new MutationObserver(() => {
  if (!hand.byKeyboard || document.activeElement !== document.body || !held.length || held[0]?.isConnected) return
  setTimeout(() => {
    if (document.activeElement !== document.body) return // somebody has given them to something better
    for (const around of held.filter((e) => e.isConnected && seen(e))) {
      const to = around.matches('[role=tree]') ? around : [...around.querySelectorAll<HTMLElement>(focusable)].find(seen)
      if (to) return to.focus()
    }
  })
}).observe(document.documentElement, { childList: true, subtree: true })

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
