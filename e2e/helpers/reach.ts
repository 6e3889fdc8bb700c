import type { Page } from '@playwright/test'

/** What can't be brought into the window by scrolling, or is covered there, of what lies on top: a line each. */
export function outOfReach(page: Page, view: string): Promise<string[]> {
  return page.evaluate((view) => {
    const shown = (e: Element): boolean => e.getClientRects().length > 0 && e.checkVisibility({ visibilityProperty: true })
    const over = [
      ...document.querySelectorAll(
        '.n-modal, .n-dropdown-menu, .n-popover:not(.n-tooltip, .passive), .n-color-picker-panel, .search[role=dialog]',
      ),
    ].filter(shown)
    const root = over[over.length - 1] ?? document.body
    const said = new Set<string>()
    const targets =
      'button:enabled, a[href], input:enabled, select, textarea, [role=switch], [role=slider], [role=option], [role=menuitem], [role=combobox]'
    for (const e of root.querySelectorAll<HTMLElement>(targets)) {
      if (!shown(e) || e.closest('.vue-flow, .n-tooltip, [aria-hidden=true]') || e.matches('.pin, .flag')) continue
      e.scrollIntoView({ block: 'nearest', inline: 'nearest' })
      const box = e.getBoundingClientRect()
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
      const name = `${e.className.toString().split(' ').slice(0, 2).join('.')} “${(e.getAttribute('aria-label') ?? e.textContent ?? '').trim().slice(0, 30)}”`
      if (box.width > innerWidth || x < 0 || y < 0 || x > innerWidth || y > innerHeight) {
        said.add(`${view}: out of the window: ${name} at ${Math.round(x)}, ${Math.round(y)}`)
        continue
      }
      const hit = document.elementFromPoint(x, y)
      const own =
        hit &&
        (e.contains(hit) || e.closest('label, .n-switch, .n-checkbox, .n-base-selection, .n-input')?.contains(hit) || hit.contains(e))
      if (!own) said.add(`${view}: covered: ${name} by ${hit?.className.toString().split(' ').slice(0, 2).join('.')}`)
    }
    const sideways = document.documentElement.scrollWidth - document.documentElement.clientWidth
    if (sideways > 0) said.add(`${view}: the page is ${sideways} px too wide`)
    return [...said]
  }, view)
}
