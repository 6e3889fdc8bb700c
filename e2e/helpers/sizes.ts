import type { Page } from '@playwright/test'

/** What a hand can't meet, or an eye can't read: targets of less than 24 px of their own, type of less than 11, a line each. */
export function tooSmall(page: Page, view: string): Promise<string[]> {
  return page.evaluate((view) => {
    const said = new Set<string>()
    const path = (e: Element): string => {
      const own = (x: Element): string =>
        x.tagName.toLowerCase() +
        [...x.classList]
          .slice(0, 2)
          .map((c) => '.' + c)
          .join('')
      return [e.parentElement, e].flatMap((x) => (x ? [own(x)] : [])).join(' > ')
    }
    const targets =
      'button, a[href], input, select, textarea, [role=button], [role=tab], [role=switch], [role=slider], [role=option], [role=menuitem], [role=combobox], [role=treeitem], [role=checkbox], [role=radio]'
    for (const e of document.querySelectorAll<HTMLElement>(targets)) {
      const box = (e.closest('label') ?? e).getBoundingClientRect() // a press on a label is one on its field
      if (!box.width || !box.height || (box.width >= 24 && box.height >= 24)) continue
      if (e.matches('.pin')) continue // its place says when; arrow keys go along them
      if (e.closest('.vue-flow__node') && !e.matches('.alone')) continue // rows of slips are 20 px
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
      const at = (x: number, y: number): Element | null => document.elementFromPoint(x, y)
      const around = e.closest('label, .n-switch, .n-checkbox, .n-base-selection')
      const own = (hit: Element | null): boolean => !!hit && (e.contains(hit) || around?.contains(hit) === true)
      if (!own(at(x, y))) continue // something lies over it
      const far = 11 // a pixel is lost to rounding
      let scroller = e.parentElement
      while (scroller && getComputedStyle(scroller).overflowY === 'visible') scroller = scroller.parentElement
      const room = (scroller ?? document.body).getBoundingClientRect() // what is scrolled half out of sight is none
      const points: [number, number][] = [
        ...(box.height < 24
          ? ([
              [x, y - far],
              [x, y + far],
            ] as [number, number][])
          : []),
        ...(box.width < 24
          ? ([
              [x - far, y],
              [x + far, y],
            ] as [number, number][])
          : []),
      ]
      const seen = ([x, y]: [number, number]): boolean => x > room.left && x < room.right && y > room.top && y < room.bottom
      const by = points.filter((p) => seen(p) && !own(at(...p))).map((p) => at(...p))
      if (!by.length || by.every((hit) => hit?.matches('.split') || hit?.closest('.n-color-picker-panel'))) continue
      const name = e.getAttribute('aria-label') ?? e.textContent?.trim().slice(0, 30)
      said.add(
        `${view}: target ${Math.round(box.width)} × ${Math.round(box.height)}: ${path(e)} “${name}”, beside ${by.map((h) => (h ? path(h) : '')).join(', ')}`,
      )
    }
    const words = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    for (let n = words.nextNode(); n; n = words.nextNode()) {
      const e = n.parentElement
      if (!n.textContent?.trim() || !e || e.matches('style, script')) continue
      const box = e.getBoundingClientRect()
      if (box.width < 2 || box.height < 2) continue
      const size = parseFloat(getComputedStyle(e).fontSize)
      if (size < 11) said.add(`${view}: type of ${size} px: ${path(e)}`)
    }
    return [...said]
  }, view)
}
