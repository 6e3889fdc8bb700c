import { add, projectOf } from '../helpers/api'
import type { FileChooser } from '@playwright/test'
import { Hand } from '../helpers/hand'
import { expect, test } from '../helpers/test'

test('a rig is saved as a recipe, made again with another panel, kept as a file, and brought in again', async ({
  page,
  server,
  studio,
}) => {
  const wind = (id: string, own: number): object => ({ id, name: 'Wind', kind: 'fader', softMax: 100, default: own })
  await studio.open(
    server.address,
    await projectOf(server, 'Saved', [
      add({ id: 'panel', name: 'Weather', kind: 'null', controls: [wind('wind', 20)], states: { position: { own: [-300, 0, 0] } } }),
      add({ id: 'other', name: 'Storm', kind: 'null', controls: [wind('gust', 50)], states: { position: { own: [300, 0, 0] } } }),
      add({ id: 'plain', name: 'Plain', kind: 'null' }),
      add({
        id: 'flag',
        name: 'Flag',
        kind: 'rectangle',
        states: { size: { own: [120, 40] }, rotation: { links: [{ id: 'l', kind: 'formula', gain: 1, formula: '{@panel:@wind} + 1' }] } },
      }),
    ]),
  )
  const hand = new Hand(page)
  const dialog = page.getByRole('dialog', { name: 'Recipes' })
  await hand.press(studio.row('Flag'))
  await hand.key('r')
  await hand.press(dialog.getByRole('button', { name: 'Save selection…' }))
  await dialog.getByLabel('Name of the recipe').fill('Flag in the wind')
  await dialog.getByText('Flag: size.x', { exact: true }).click()
  await dialog.getByRole('button', { name: 'Save recipe' }).click()
  const own = dialog.getByRole('list', { name: 'Recipes of this project' })
  await expect(own.getByRole('button')).toHaveText(['Flag in the wind'])
  // Its slot is asked for; what has no such control is refused.
  const slot = dialog.getByLabel('What takes the place of Weather')
  const choose = async (name: string): Promise<void> => {
    await slot.locator('xpath=ancestor-or-self::*[contains(@class,"n-select")]').first().click()
    await page.locator('.n-base-select-option').filter({ hasText: name }).click()
  }
  await choose('Plain')
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await expect(page.getByText('Plain has no property Wind', { exact: false }).first()).toBeVisible()
  await choose('Storm')
  await dialog.getByLabel('Flag: size.x').fill('200')
  await page.keyboard.press('Tab')
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Save as a file' }).click()])
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Flag 2')
  await expect.poll(() => studio.value(studio.field('rotation').locator('button.value'))).toBe(51)
  await expect.poll(() => studio.value(studio.field('size').locator('button.value').first())).toBe(200)
  // Removed, and brought in from the file; a file that holds none is said.
  await hand.key('r')
  await own.getByRole('button').click()
  await dialog.getByRole('button', { name: 'Delete from the project' }).click()
  await expect(own).toHaveCount(0)
  const path = await download.path()
  let chosen: Parameters<FileChooser['setFiles']>[0] = []
  page.on('filechooser', (chooser) => void chooser.setFiles(chosen))
  const open = async (file: typeof chosen): Promise<void> => {
    chosen = file
    await dialog.getByRole('button', { name: 'Open a file…' }).click()
  }
  await open({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{"a":1}') })
  await expect(page.getByText('Can’t bring in x.json: The file is not a Wunderkammer project, or a part of one.')).toBeVisible()
  await page.locator('.n-message__close').first().click()
  await open(path)
  await expect(own.getByRole('button')).toHaveText(['Flag in the wind'])
})
