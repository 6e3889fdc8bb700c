import { add, projectOf } from '../helpers/api'
import { option } from '../helpers/hand'
import { expect, test } from '../helpers/test'

const rig = [
  add({
    id: 'rig',
    name: 'Rig',
    kind: 'null',
    controls: [
      { id: 'wind', name: 'Wind', kind: 'fader', softMax: 100, default: 0 },
      { id: 'glow', name: 'Glow', kind: 'fader', softMax: 100, default: 0 },
    ],
    states: { wind: { own: 62 } },
  }),
  add({ id: 'box', name: 'Box', kind: 'rectangle', states: { position: { own: [-300, 120, 0] } } }),
]

test('a state is kept, compared by a line and by a held key, gone back to and undone; it stays with the project', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Before', rig))
  const tools = page.getByRole('toolbar', { name: 'Viewport' })
  const menu = async (entry: string): Promise<void> => {
    await tools.getByRole('button', { name: 'Before' }).click()
    await option(page, entry).click()
  }
  await page.keyboard.press('b')
  await expect(page.getByText('Nothing is kept yet', { exact: false })).toBeVisible()
  await menu('Keep as before')
  await expect(page.getByText('Kept as Before 1.')).toBeVisible()

  await studio.type('Wind', '17')
  await studio.select('Box')
  await page.keyboard.press('Delete')
  await menu('Compare with Before 1')
  const band = page.getByRole('status').filter({ hasText: 'Before:' })
  await expect(band).toContainText('2 differences')
  const picture = page.getByTestId('before')
  await expect(picture).toHaveAttribute('data-drawn', '0')
  // What is there now is gone to; what is gone is only told.
  await band.getByRole('button', { name: '2 differences' }).click()
  const list = page.getByRole('list', { name: 'Differences' })
  await expect(list).toHaveText(/Rig: Wind\s+other value\s*Box\s+gone/)
  await list.getByRole('button', { name: 'Rig: Wind' }).click()
  await expect(studio.control('Wind')).toHaveClass(/picked/)

  // The box is seen on the left of the line alone: where it stood, the picture is another.
  const stage = await studio.stage.boundingBox()
  if (!stage) throw new Error('no stage')
  const at = { x: stage.x + stage.width / 2 - 300 * 0.53 - 10, y: stage.y + stage.height / 2 - 120 * 0.53 - 10, width: 20, height: 20 }
  const shot = async (): Promise<string> => (await page.screenshot({ clip: at })).toString('base64')
  const withBox = await shot()
  const line = page.getByRole('slider', { name: 'How much shows what was before' })
  await line.focus()
  await page.keyboard.press('Home')
  await expect(line).toHaveAttribute('aria-valuenow', '0')
  await expect.poll(shot).not.toBe(withBox)
  await page.keyboard.press('End')
  await expect.poll(shot).toBe(withBox)
  // It follows the playhead.
  await studio.control('Glow').locator('.name').click()
  await studio.seek(83)
  await expect(picture).toHaveAttribute('data-drawn', '83')
  await band.getByRole('button', { name: 'Done' }).click()
  await expect(picture).toHaveCount(0)
  await expect.poll(shot).not.toBe(withBox)
  await page.keyboard.down('b')
  await expect.poll(shot).toBe(withBox)
  await page.keyboard.up('b')
  await expect(picture).toHaveCount(0)

  // Gone back to, with what was deleted; undone, it is gone again. Both survive a reload.
  await menu('Compare with Before 1')
  await band.getByRole('button', { name: 'Go back to it' }).click()
  await expect(band).toContainText('No differences')
  await expect(studio.row('Box')).toHaveCount(1)
  await expect(studio.control('Wind').locator('button.value')).toHaveAttribute('data-value', '62')
  await page.keyboard.press('Control+z')
  await expect(studio.row('Box')).toHaveCount(0)
  await expect(band).toContainText('2 differences')
  await band.getByRole('button', { name: /Before 1/ }).dblclick()
  await page.keyboard.type('Before the storm')
  await page.keyboard.press('Enter')
  await expect(band).toContainText('Before the storm')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  await menu('Compare with Before the storm')
  await expect(band).toContainText('2 differences')
  await band.getByRole('button', { name: 'Delete' }).click()
  await expect(band).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await menu('Compare with Before the storm')
  await expect(band).toContainText('2 differences')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await expect(band).toHaveCount(0)
})
