import { add, projectOf } from '../helpers/api'
import { Hand } from '../helpers/hand'
import { expect, test } from '../helpers/test'

const fader = (id: string, name: string): object => ({ id, name, kind: 'fader', softMax: 100, default: 20 })
const formula = (text: string): object => ({ links: [{ id: 'l' + Math.abs(text.length * 7919), kind: 'formula', gain: 1, formula: text }] })

/** A panel of three faders: one that jumps, one that divides by nothing at its half, one that is sound. */
const faulty = [
  add({ id: 'panel', name: 'Panel', kind: 'null', controls: [fader('a', 'Height'), fader('b', 'Glow'), fader('c', 'Sway')] }),
  add({
    id: 'kite',
    name: 'Kite',
    kind: 'star',
    states: {
      position: formula('own + [0, 190 * step(63, {@panel:@a}), 0]'),
      opacity: formula('80 + 1 / ({@panel:@b} - 50)'),
      rotation: formula('{@panel:@c} * 2'),
    },
  }),
]

test('a rehearsal finds a jump and a division by nothing, shows them, and leaves the project as it is', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Rehearsal', faulty))
  const hand = new Hand(page)
  await hand.key('Shift+R')
  const dialog = page.getByRole('dialog', { name: 'Rehearsal' })
  await hand.press(dialog.getByRole('button', { name: 'Rehearse', exact: true }))
  const found = dialog.getByRole('list', { name: 'What was found' }).getByRole('listitem')
  await expect(found).toHaveCount(3) // the division makes it jump besides
  const jump = found.filter({ hasText: 'Kite: position.y' })
  await expect(found.first()).toContainText('Kite: opacity has no valid result with Panel: Glow at 50')
  await expect(jump).toContainText('jumps from 0 to 190')
  await expect(jump.locator('img')).toBeVisible()
  // Shown, the kite is up; back, it is down; the project was not touched.
  await hand.press(jump.getByRole('button', { name: /^Show/ }))
  const y = studio.field('position').locator('button.value').nth(1)
  await expect.poll(() => studio.value(y)).toBe(190)
  await hand.press(jump.getByRole('button', { name: /^Show/ }))
  await expect.poll(() => studio.value(y)).toBe(0)
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
  // It is kept as the last rehearsal; Esc closes it and takes the moment back.
  await hand.press(jump.getByRole('button', { name: /^Show/ }))
  await expect.poll(() => studio.value(y)).toBe(190)
  await hand.key('Escape')
  await expect(dialog).toHaveCount(0)
  await expect.poll(() => studio.value(y)).toBe(0)
  await page.reload()
  await studio.drawn()
  await hand.key('Control+k')
  await hand.type('rehearsal')
  await expect(page.getByRole('dialog', { name: 'Rehearsal' }).getByRole('listitem')).toHaveCount(3)
})

test('a rehearsal of the demo finds nothing, in the worker, while the page stays fluid, and can be stopped', async ({
  page,
  demo,
  studio,
}) => {
  await studio.open(demo.address, 'lanternfall')
  await page.keyboard.press('Shift+R')
  const dialog = page.getByRole('dialog', { name: 'Rehearsal' })
  const begin = Date.now()
  // While it runs, frames of the page come on: the longest wait for one is measured.
  await page.evaluate(() => {
    const w = window as unknown as { longest: number; going: boolean }
    w.longest = 0
    w.going = true
    let last = performance.now()
    const tick = (): void => {
      const now = performance.now()
      w.longest = Math.max(w.longest, now - last)
      last = now
      if (w.going) requestAnimationFrame(tick)
    }
    requestAnimationFrame(tick)
  })
  await dialog.getByRole('button', { name: 'Rehearse', exact: true }).click()
  await expect(dialog.getByText('No problems found.')).toBeVisible({ timeout: 60_000 })
  const took = Date.now() - begin
  const longest = await page.evaluate(() => {
    const w = window as unknown as { longest: number; going: boolean }
    w.going = false
    return w.longest
  })
  console.log(`the demo rehearsed in ${took} ms; the longest wait for a frame of the page was ${Math.round(longest)} ms`)
  expect(took).toBeLessThan(20_000)
  await dialog.getByRole('button', { name: 'Rehearse', exact: true }).click()
  const cancel = dialog.getByRole('button', { name: 'Cancel' })
  if (await cancel.isVisible()) await cancel.click()
  await expect(dialog.getByRole('button', { name: 'Rehearse', exact: true })).toBeEnabled()
})

test('without a control there is nothing to rehearse, and that is said', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'No controls')
  await studio.add('ellipse', 'Buoy')
  await page.keyboard.press('Shift+R')
  const dialog = page.getByRole('dialog').filter({ hasText: 'Rehearsal' })
  await expect(dialog).toContainText('There are no controls to rehearse')
  await expect(dialog.getByRole('button', { name: 'Rehearse', exact: true })).toBeDisabled()
  await page.keyboard.press('Escape') // wherever the hand is
  await expect(dialog).toHaveCount(0)
  await studio.addControl('Buoy', 'Fader', 'Bob')
  await page.keyboard.press('Shift+R')
  await dialog.getByRole('button', { name: 'Rehearse', exact: true }).click()
  await expect(dialog).toContainText('Last rehearsal')
  await expect(dialog).not.toContainText('There are no controls')
})
