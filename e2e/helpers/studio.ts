import { expect, type FileChooser, type Locator, type Page } from '@playwright/test'

/** What a user does in the studio, by name. Everything goes through real pointers and keys. */
export class Studio {
  constructor(readonly page: Page) {}

  get stage(): Locator {
    return this.page.getByTestId('stage')
  }

  /** Opens a project and waits until its first frame is drawn. */
  async open(address: string, project: string): Promise<void> {
    await this.page.goto(`${address}/project/${project}`)
    await this.drawn()
  }

  async drawn(): Promise<void> {
    await expect(this.stage).toHaveAttribute('data-drawn', /\d+:\d+/)
  }

  /** Makes an empty project from the first screen. */
  async newProject(address: string, name: string): Promise<void> {
    await this.page.goto(address)
    await this.page.getByRole('button', { name: 'New project' }).click()
    await this.page.getByLabel('Project name').fill(name)
    await this.page.getByRole('button', { name: 'Create', exact: true }).click()
    await this.drawn()
  }

  row(name: string): Locator {
    return this.page.getByRole('treeitem').filter({ has: this.page.locator(`[title="${name}"]`) })
  }

  async add(kind: string, name?: string): Promise<void> {
    const before = await this.page.getByRole('treeitem').count()
    await this.page.getByRole('button', { name: '+ Add' }).click()
    await this.page.getByRole('option', { name: kind, exact: true }).click()
    await expect(this.page.getByRole('treeitem')).toHaveCount(before + 1)
    if (!name) return
    const row = this.page.getByRole('treeitem', { selected: true })
    await row.dblclick()
    await row.getByLabel('Item name').fill(name)
    await row.getByLabel('Item name').press('Enter')
    await expect(this.row(name)).toHaveCount(1)
  }

  /** Adds several things of a kind, named and numbered, and selects them: '5 rectangle Crate'. */
  async addMany(what: string): Promise<void> {
    await this.page.keyboard.press('a')
    await this.page.getByLabel('What to add, and its name').pressSequentially(what)
    await this.page.waitForTimeout(200) // what is found is there
    await this.page.keyboard.press('Shift+Enter')
    await expect(this.page.getByRole('treeitem', { selected: true })).toHaveCount(parseInt(what))
  }

  async select(...names: string[]): Promise<void> {
    for (const [i, name] of names.entries()) await this.row(name).click({ modifiers: i ? ['Control'] : [] })
  }

  /** Adds a control to an item with the form that C opens. */
  async addControl(owner: string, kind: string, name: string, range?: [from: number, to: number]): Promise<void> {
    await this.select(owner)
    await this.page.keyboard.press('c')
    const form = this.page.getByRole('dialog')
    await form.getByText(kind, { exact: true }).click()
    await form.getByLabel('Name of the control').fill(name)
    if (range) {
      await form.getByLabel('Range from').fill(String(range[0]))
      await form.getByLabel('Range to').fill(String(range[1]))
    }
    await form.getByRole('button', { name: 'Add', exact: true }).click()
    await expect(this.control(name)).toBeVisible()
  }

  /** Brings in files by the picker of the menu that adds items. */
  async bring(files: Parameters<FileChooser['setFiles']>[0]): Promise<void> {
    await this.page.getByRole('button', { name: '+ Add' }).click()
    const [chooser] = await Promise.all([
      this.page.waitForEvent('filechooser'),
      this.page.getByRole('option', { name: 'Import files' }).click(),
    ])
    await chooser.setFiles(files)
  }

  control(name: string): Locator {
    return this.page.locator(`[data-control="${name}"]`)
  }

  /** How many properties a control drives, as its jack says; – for none. */
  drives(control: string): Locator {
    return this.control(control).locator('.count')
  }

  field(key: string): Locator {
    return this.page.locator(`[data-property="${key}"]`)
  }

  track(name: string): Locator {
    return this.page.locator(`[data-track="${name}"]`)
  }

  async middle(of: Locator): Promise<{ x: number; y: number }> {
    await of.scrollIntoViewIfNeeded()
    const box = await of.boundingBox()
    if (!box) throw new Error('it is not on the screen')
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }

  /** Pulls a cable from the jack of a control to the jack of a property on the Card. */
  async cable(control: string, property: string): Promise<void> {
    const from = await this.middle(this.control(control).locator('.jack'))
    const to = await this.middle(this.field(property).locator('.jack'))
    await this.page.mouse.move(from.x, from.y)
    await this.page.mouse.down()
    await this.page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, {
      steps: 4,
    })
    await this.page.mouse.move(to.x, to.y, { steps: 4 })
    await this.page.mouse.up()
    await expect(this.field(property).locator('.chip')).toContainText(control)
  }

  /** Drags the handle of a fader to a share of its rail. */
  async fader(control: string, share: number): Promise<void> {
    const box = await this.control(control).getByRole('slider').boundingBox()
    if (!box) throw new Error(`${control} has no fader`)
    const y = box.y + box.height / 2
    await this.page.mouse.move(box.x + 2, y)
    await this.page.mouse.down()
    await this.page.mouse.move(box.x + box.width * share, y, { steps: 8 })
    await this.page.mouse.up()
  }

  /** Types a value into a number field of a control. */
  async type(control: string, value: string, field = 0): Promise<void> {
    await this.control(control).locator('button.value').nth(field).click()
    await this.page.keyboard.type(value)
    await this.page.keyboard.press('Enter')
  }

  /** The exact value that a number field shows. */
  async value(field: Locator): Promise<number> {
    return Number(await field.getAttribute('data-value'))
  }

  async seek(frame: number): Promise<void> {
    const ruler = this.page.getByRole('slider', { name: 'Playhead' })
    await ruler.focus()
    await this.page.waitForTimeout(60) // what was closed just now may give the focus back to where it was opened
    await ruler.focus()
    await this.page.keyboard.press('Home')
    for (let i = 0; i < Math.floor(frame / 10); i++) await this.page.keyboard.press('Shift+ArrowRight')
    for (let i = 0; i < frame % 10; i++) await this.page.keyboard.press('ArrowRight')
    await expect(this.stage).toHaveAttribute('data-drawn', new RegExp(`^${frame}:`))
  }

  async saved(): Promise<void> {
    await expect(this.page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible()
  }
}
