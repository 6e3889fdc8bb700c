import { readFileSync } from 'node:fs'
import { expect, test } from '../helpers/test'

test('projects are made, renamed, duplicated, deleted with undo, saved as a file and opened from one', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Pier')
  await studio.add('ellipse', 'Buoy')
  await studio.saved()
  await page.getByRole('link', { name: 'All projects' }).click()
  const names = page.locator('.drawer .name')
  await expect(names).toHaveText(['Pier'])
  const act = async (project: string, what: string): Promise<void> => {
    await page.getByRole('button', { name: `Actions for ${project}`, exact: true }).click()
    await page
      .locator('.n-dropdown-option')
      .filter({ hasText: new RegExp(`^${what}$`) })
      .click()
  }
  await act('Pier', 'Rename')
  await page.getByLabel('Project name').fill('Long pier')
  await page.getByRole('button', { name: 'Rename', exact: true }).click()
  await expect(names).toHaveText(['Long pier'])
  await act('Long pier', 'Duplicate')
  await expect(names).toHaveText(['Long pier copy', 'Long pier'])
  await act('Long pier', 'Delete')
  await expect(names).toHaveText(['Long pier copy'])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(names).toHaveCount(2)

  const [download] = await Promise.all([page.waitForEvent('download'), act('Long pier', 'Download project file')])
  expect(download.suggestedFilename()).toBe('Long pier.wunderkammer')
  const file = {
    name: 'x.wunderkammer',
    mimeType: 'application/zip',
    buffer: readFileSync(await download.path()),
  }
  await page.locator('input[type=file]').setInputFiles(file)
  await expect(names).toHaveCount(3)
  await page.locator('input[type=file]').setInputFiles({ ...file, buffer: Buffer.from('not a project') })
  await expect(page.getByText('The file is not a Wunderkammer project, or it is damaged.')).toBeVisible()
  await names.first().click()
  await studio.drawn()
  await expect(studio.row('Buoy')).toHaveCount(1)
})

test('a project that is not there says so and leads back', async ({ page, server }) => {
  await page.goto(server.address + '/project/nowhere')
  await expect(page.getByText('There is no such project; it may have been deleted.')).toBeVisible()
  await page.getByRole('button', { name: 'Back to projects' }).click()
  await expect(page.getByRole('heading', { name: 'Wunderkammer' })).toBeVisible()
})

test('both themes, and nothing from elsewhere', async ({ page, demo, studio }) => {
  const foreign: string[] = []
  page.on('request', (r) => {
    if (!r.url().startsWith(demo.address) && !r.url().startsWith('ws://127.0.0.1') && !/^(data|blob):/.test(r.url())) foreign.push(r.url())
  })
  const refused: string[] = []
  page.on('console', (m) => m.type() === 'error' && refused.push(m.text()))
  await studio.open(demo.address, 'lanternfall')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'daylight')
  await page.getByRole('button', { name: 'Switch to lamplight' }).click()
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamplight')
  await page.reload()
  await studio.drawn()
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamplight')
  expect(foreign).toEqual([])
  expect(refused).toEqual([])
})

test('a core that could not be had while the projects were looked at is had when one is opened', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Later')
  await studio.saved()
  await page.route(/\/assets\/worker-.*\.js$/, (route) => route.abort())
  await page.goto(server.address)
  await expect(page.getByText('Later')).toBeVisible()
  await page.waitForRequest(/\/assets\/worker-.*\.js$/)
  await page.waitForTimeout(300)
  await page.unroute(/\/assets\/worker-.*\.js$/)
  await page.getByText('Later').click()
  await studio.drawn()
  await studio.add('ellipse', 'Ball')
  await expect(studio.row('Ball')).toHaveCount(1)
})

test('a project shows its items while the core is made ready, and one that is left meanwhile is not followed', async ({ page, demo }) => {
  const lines: string[] = []
  page.on('websocket', (line) => lines.push(line.url()))
  await page.route('**/*.wasm', async (route) => {
    await new Promise((later) => setTimeout(later, 2500))
    await route.continue()
  })
  await page.goto(demo.address)
  await page
    .getByRole('link', { name: /Lanternfall/ })
    .first()
    .click()
  await expect(page.getByRole('treeitem').first()).toBeVisible()
  await expect(page.getByTestId('stage')).not.toHaveAttribute('data-drawn', /./)
  await page.goBack()
  await page.waitForTimeout(4000)
  expect(lines).toEqual([])
  await page.goForward()
  await expect(page.getByTestId('stage')).toHaveAttribute('data-drawn', /./)
  await expect.poll(() => lines.length).toBe(1)
})

test('the first picture stands there before the core is ready, and what is done meanwhile is done when it is', async ({
  page,
  demo,
  studio,
}) => {
  let release = (): void => undefined
  const released = new Promise<void>((resolve) => (release = resolve))
  await page.route('**/*.wasm', async (route) => {
    await released
    await route.continue()
  })
  await page.goto(`${demo.address}/project/lanternfall`)
  await expect.poll(() => page.evaluate(() => performance.getEntriesByName('picture').length)).toBe(1)
  await page.evaluate(() => document.fonts.ready)
  const stage = page.getByTestId('stage')
  await expect(stage).not.toHaveAttribute('data-drawn', /./)
  const early = await stage.screenshot()
  await page.getByRole('button', { name: '+ Add' }).click()
  await page.getByRole('option', { name: 'ellipse', exact: true }).click()
  await expect(studio.row('Ellipse')).toHaveCount(0)
  release()
  await studio.drawn()
  await expect(studio.row('Ellipse')).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(studio.row('Ellipse')).toHaveCount(0)
  expect((await stage.screenshot()).equals(early)).toBe(true)
})
