import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

const slider = (id: string, name: string): object => ({ id, name, kind: 'slider', softMax: 100, default: 20 })

test('a control laid onto the viewport moves the picture from there, travels with an item, and goes to another drawer with its wiring', async ({
  page,
  server,
  studio,
}) => {
  const turns = {
    rotation: { own: null, links: [{ id: 'l', kind: 'follow', source: { item: 'rig', property: 'turn' }, gain: 1, offset: 0 }] },
  }
  await studio.open(
    server.address,
    await projectOf(server, 'Laid', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [slider('turn', 'Turn')] }),
      add({ id: 'other', name: 'Other', kind: 'null', controls: [slider('spare', 'Spare')] }),
      add({ id: 'lamp', name: 'Lamp', kind: 'rectangle', states: turns }),
    ]),
  )
  const menu = async (of: string, entry: string): Promise<void> => {
    await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
    await studio
      .control(of)
      .getByRole('button', { name: `Actions for ${of}` })
      .click()
    await page.locator('.n-dropdown-option').filter({ hasText: entry }).click()
  }
  await menu('Turn', 'Show in viewport')
  const laid = page.locator('[data-laid="Turn"]')
  await studio.select('Lamp')
  const fader = await studio.middle(laid.getByRole('slider'))
  await page.mouse.click(fader.x, fader.y)
  const turned = (): Promise<number> => studio.value(studio.field('rotation').locator('button.value'))
  await expect.poll(turned).toBeGreaterThan(35)
  expect(await turned()).toBeLessThan(65)

  // It travels with the lamp, from where it stands.
  const stood = await laid.boundingBox()
  await laid.getByRole('button', { name: 'Actions for Turn on the viewport' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Attach to Lamp' }).click()
  await expect.poll(async () => Math.abs(((await laid.boundingBox())?.x ?? 0) - (stood?.x ?? 0))).toBeLessThan(2)
  await page.keyboard.press('Alt+Shift+ArrowRight')
  await page.keyboard.press('Alt+Shift+ArrowRight')
  await expect.poll(async () => ((await laid.boundingBox())?.x ?? 0) - (stood?.x ?? 0)).toBeGreaterThan(4)

  // What it drives, walked; then a copy that takes the wiring along.
  await menu('Turn', 'What does it drive?')
  await expect(page.getByRole('dialog')).toContainText(/Lamp: rotation, now \d+/)
  await page.getByRole('button', { name: 'Close' }).click()
  await menu('Turn', 'Copy with links to')
  await page.locator('.n-dropdown-option').filter({ hasText: 'Other' }).last().click()
  await expect(page.locator('[data-control="Turn"]')).toHaveCount(2)
  await page.keyboard.press('3')
  await page.getByRole('checkbox', { name: 'Group' }).click()
  await page.getByRole('button', { name: 'Source', exact: true }).click()
  await page.getByRole('button', { name: 'Other: Turn 1' }).click()
  await expect(page.getByText('1 selected')).toBeVisible()
})
