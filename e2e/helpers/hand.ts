import { expect, type Locator, type Page } from '@playwright/test'

/** The hand of somebody who is counted: a press, a drag, a key, or something typed with its Enter is one gesture each. */
export class Hand {
  count = 0
  constructor(readonly page: Page) {}

  async press(on: Locator, modifiers: ('Control' | 'Shift')[] = []): Promise<void> {
    this.count++
    await on.click({ modifiers })
  }

  async key(key: string): Promise<void> {
    this.count++
    await this.page.keyboard.press(key)
    const field = {
      a: 'What to add, and its name',
      c: 'Name of the control',
      l: 'Find a source',
    }[key]
    if (field) await expect(this.page.getByLabel(field)).toBeFocused() // nobody types sooner than that
  }

  async type(text: string, by = 'Enter'): Promise<void> {
    this.count++
    await this.page.keyboard.type(text)
    await this.page.waitForTimeout(150) // what is found is there
    await this.page.keyboard.press(by)
  }

  async drag(from: Locator, dx: number, dy = 0): Promise<void> {
    this.count++
    await from.scrollIntoViewIfNeeded()
    const box = await from.boundingBox()
    if (!box) throw new Error('it is not on the screen')
    const { mouse } = this.page
    await mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await mouse.down()
    await mouse.move(box.x + box.width / 2 + dx / 2, box.y + box.height / 2 + dy / 2, { steps: 4 })
    await mouse.move(box.x + box.width / 2 + dx, box.y + box.height / 2 + dy, {
      steps: 4,
    })
    await mouse.up()
  }
}

/** An entry of the menu that is open. */
export const option = (page: Page, text: string): Locator => page.locator('.n-dropdown-option').filter({ hasText: text }).last()
