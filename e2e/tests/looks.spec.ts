import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

const fader = (id: string, name: string, begin: number): object => ({ id, name, kind: 'fader', softMax: 100, default: begin })

test('three looks of a drawer are kept, compared, stepped through, and mixed by a fader', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Quay', [
      add({ id: 'light', name: 'Light', kind: 'null', controls: [fader('glow', 'Glow', 12), fader('haze', 'Haze', 70)] }),
      add({
        id: 'lamp',
        name: 'Lamp',
        kind: 'rectangle',
        states: { opacity: { links: [{ id: 'l1', kind: 'follow', gain: 1, source: { item: 'light', property: 'glow' } }] } },
      }),
    ]),
  )
  const drawer = page.getByRole('region', { name: 'Drawer Light' })
  const strip = drawer.getByRole('group', { name: 'Looks of Light' })
  const slider = (name: string) => drawer.getByRole('slider', { name, exact: true })
  const at = async (glow: string, haze: string): Promise<void> => {
    await expect(slider('Glow')).toHaveAttribute('aria-valuenow', glow)
    await expect(slider('Haze')).toHaveAttribute('aria-valuenow', haze)
  }
  const further = async (name: string, steps: number): Promise<void> => {
    await page.waitForTimeout(600) // what has the focus long after a press was reached by keyboard
    await slider(name).focus()
    for (let k = 0; k < steps; k++) await page.keyboard.press('ArrowRight')
  }

  // Kept by a press each, and named at once.
  await drawer.getByRole('button', { name: 'Actions for the drawer Light' }).click()
  await page.getByText('Keep a look of its controls').click()
  await page.keyboard.type('Dusk')
  await page.keyboard.press('Enter')
  await further('Glow', 3)
  await strip.getByRole('button', { name: 'Keep another of Looks of Light' }).click()
  await page.keyboard.type('Night')
  await page.keyboard.press('Enter')
  await further('Haze', 5)
  await strip.getByRole('button', { name: 'Keep another of Looks of Light' }).click()
  await page.keyboard.press('Escape') // the name that it was given will do
  await expect(strip.getByRole('button', { name: 'Look 3' })).toHaveAttribute('aria-pressed', 'true')
  await at('15', '75')

  // Held, one is shown for as long; pressed, it is applied.
  const dusk = strip.getByRole('button', { name: 'Dusk' })
  await dusk.hover()
  await page.mouse.down()
  await at('12', '70')
  await page.waitForTimeout(400) // longer than a press
  await page.mouse.up()
  await at('15', '75')
  await dusk.focus()
  await page.keyboard.down(' ')
  await at('12', '70')
  await page.waitForTimeout(400)
  await page.keyboard.press('Escape')
  await page.keyboard.up(' ')
  await at('15', '75')
  await dusk.click()
  await at('12', '70')
  await expect(dusk).toHaveAttribute('aria-pressed', 'true')
  await page.getByRole('button', { name: 'Undo' }).first().click()
  await at('15', '75')
  await strip.getByRole('button', { name: 'Next look' }).click() // from the last to the first
  await at('12', '70')
  await strip.getByRole('button', { name: 'Next look' }).click()
  await at('15', '70')
  await strip.getByRole('button', { name: 'Look before' }).click()
  await at('12', '70')

  // Mixed, a fader goes from one to the next; a look that is pressed brings it to its stop.
  await strip.getByRole('button', { name: 'Actions for Looks of Light' }).click()
  await page.getByText('Mix them with a fader').click()
  await expect(slider('Look')).toHaveAttribute('aria-valuenow', '0')
  await strip.getByRole('button', { name: 'Night' }).click()
  await expect(slider('Look')).toHaveAttribute('aria-valuenow', '50')
  await at('15', '70')
  await further('Look', 10)
  await expect(slider('Haze')).toHaveAttribute('aria-valuenow', '71') // a fifth of the way to the next
  await strip.getByRole('button', { name: 'Look 3' }).click()
  await at('15', '75')
  await expect(strip.getByRole('button', { name: 'Look 3' })).toHaveAttribute('aria-pressed', 'true')

  // Renamed by F2, the fader’s stop is called so, too; deleted, only the look is gone.
  await strip.getByRole('button', { name: 'Look 3' }).focus()
  await page.keyboard.press('F2')
  await page.keyboard.type('Fog')
  await page.keyboard.press('Enter')
  await expect(strip.getByRole('button', { name: 'Fog' })).toBeVisible()
  await strip.getByRole('button', { name: 'Actions for Looks of Light' }).click()
  await page.getByText('Dusk', { exact: true }).last().hover()
  await page.getByText('Delete', { exact: true }).click()
  await expect(dusk).toHaveCount(0)
  await at('15', '75')
})

test('a look of all drawers is kept from the Desk, and goes on holding where a control is gone', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Quay', [
      add({ id: 'light', name: 'Light', kind: 'null', controls: [fader('glow', 'Glow', 12)] }),
      add({ id: 'air', name: 'Air', kind: 'null', controls: [fader('wind', 'Wind', 31), fader('rain', 'Rain', 5)] }),
    ]),
  )
  await page.getByRole('button', { name: 'Keep look' }).click()
  await page.keyboard.type('Calm')
  await page.keyboard.press('Enter')
  const calm = page.getByRole('group', { name: 'Looks of all drawers' }).getByRole('button', { name: 'Calm' })
  const wind = page.getByRole('slider', { name: 'Wind', exact: true })
  await studio.fader('Wind', 0.83)
  await expect(calm).toHaveAttribute('aria-pressed', 'false')
  await page.locator('[data-control="Rain"] .called').click()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('slider', { name: 'Rain', exact: true })).toHaveCount(0)
  await calm.click()
  await expect(wind).toHaveAttribute('aria-valuenow', '31')
  await expect(page.getByText('Calm: 1 control that it keeps a value of can’t be set any more.')).toBeVisible()
})
