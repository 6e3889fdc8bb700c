import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

const fader = (id: string, name: string, begin: number): object => ({ id, name, kind: 'fader', softMax: 100, default: begin })
const panel = [
  {
    ...fader('day', 'Day', 20),
    poses: [
      { id: 's1', name: 'noon', at: 0, easing: 'smooth' },
      { id: 's2', name: 'dusk', at: 83, easing: 'linear' },
    ],
  },
  fader('glow', 'Glow', 42),
  { id: 'dye', name: 'Dye', kind: 'colour', default: [0.8, 0.2, 0.3, 1] },
  { id: 'flag', name: 'Flag', kind: 'choice', options: ['red', 'green'], default: 1 },
  { id: 'word', name: 'Word', kind: 'text', default: 'Quay' },
]

/** Has whatever opens a chooser get a file; it is told anew for the next. */
function choosing(page: Page): (path: string) => void {
  let file = ''
  page.on('filechooser', (chooser) => void chooser.setFiles(file))
  return (path) => void (file = path)
}

test('a set of five controls with poses is put on another null, and brought into another project', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Quay', [
      add({ id: 'light', name: 'Light', kind: 'null', controls: panel }),
      add({ id: 'half', name: 'Half', kind: 'null', controls: [fader('g2', 'Glow', 9), fader('w2', 'Word', 3)] }),
    ]),
  )
  const choose = choosing(page)
  const menu = (name: string) => page.getByRole('button', { name: `Actions for the drawer ${name}` })
  await menu('Light').click()
  await page.getByText('Keep its controls as a set').click()
  await expect(page.getByText('Light is kept as a set of 5 controls.')).toBeVisible()
  // One that has half of the names keeps what is its own.
  await menu('Half').click()
  await page.getByRole('menuitem', { name: 'Add the controls of a set' }).last().hover()
  await page.getByText('Light (5)').click()
  const half = page.getByRole('region', { name: 'Drawer Half' })
  await expect(half.locator('[data-control]')).toHaveCount(6)
  await expect(half.locator('[data-control="Word 2"]')).toBeVisible()
  await expect(half.getByRole('slider', { name: 'Glow', exact: true })).toHaveAttribute('aria-valuenow', '9')
  await page.getByText('Close', { exact: true }).click() // what is called otherwise was told

  // As a file into another project, onto a null there.
  await menu('Light').click()
  await page.getByRole('menuitem', { name: 'Sets of this project' }).last().hover()
  await page.getByRole('menuitem', { name: 'Light', exact: true }).hover()
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByText('Save as a file').click()])
  expect(download.suggestedFilename()).toBe('Light.wunderkammer')
  const path = await download.path()
  await studio.open(
    server.address,
    await projectOf(server, 'Pier', [add({ id: 'deck', name: 'Deck', kind: 'null', controls: [fader('x', 'Swell', 4)] })]),
  )
  await menu('Deck').click()
  await page.getByRole('menuitem', { name: 'Add the controls of a set' }).last().hover()
  choose(path)
  await page.getByText('From a file…').click()
  const deck = page.getByRole('region', { name: 'Drawer Deck' })
  await expect(deck.locator('[data-control]')).toHaveCount(6)
  await expect(deck.getByRole('slider', { name: 'Day', exact: true })).toHaveAttribute('aria-valuenow', '20')
  await deck.getByRole('button', { name: 'Actions for Day' }).click({ force: true })
  await expect(page.getByText('Edit poses…')).toBeVisible()
})

test('a composition is saved as a file, brought into another project and beside itself, and a broken file is told', async ({
  page,
  server,
  studio,
}, info) => {
  await studio.open(server.address, await projectOf(server, 'Quay', [add({ id: 'light', name: 'Light', kind: 'null', controls: panel })]))
  const choose = choosing(page)
  const open = page.getByRole('button', { name: 'Compositions' })
  await open.click()
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByText('Save as a file').click()])
  const path = await download.path()
  await open.click()
  choose(path)
  await page.getByText('Bring in from a project file…').click()
  await expect(page.getByText('Composition 1 is called Composition 2 here: there is a composition Composition 1')).toBeVisible()
  await page.getByText('Close', { exact: true }).click()
  await expect(page.getByRole('button', { name: 'Composition name: Composition 2' })).toBeVisible()
  await expect(page.getByRole('slider', { name: 'Glow', exact: true })).toHaveAttribute('aria-valuenow', '42')
  const broken = info.outputPath('broken.wunderkammer')
  const { writeFile } = await import('node:fs/promises')
  await writeFile(broken, 'PK nothing of the sort')
  await open.click()
  choose(broken)
  await page.getByText('Bring in from a project file…').click()
  await expect(
    page.getByText('Can’t bring in broken.wunderkammer: The file is not a Wunderkammer project, or it is damaged.'),
  ).toBeVisible()
})
