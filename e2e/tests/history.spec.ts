import { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'
import { run } from '../helpers/server'

test('after a backup was restored under an open page, it says so, keeps what was not saved, and goes on there', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Pier')
  await studio.add('ellipse', 'Ball')
  await studio.saved()
  const backup = server.folder + '/backup.db'
  run('backup', backup, '--data', server.folder)
  await studio.add('rectangle', 'After the backup')
  await studio.saved()
  // The server goes away; what is done meanwhile is not saved.
  await server.stop()
  await studio.add('star', 'Not saved')
  run('restore', backup, '--data', server.folder)
  await server.start()
  await expect(page.getByText('A backup was restored on the server')).toBeVisible()
  await studio.drawn()
  await expect(studio.row('Ball')).toHaveCount(1)
  await expect(studio.row('After the backup')).toHaveCount(0)
  await expect(studio.row('Not saved')).toHaveCount(0)
  await studio.add('text', 'Goes on')
  await studio.saved()
  // What was here is a project of its own.
  await page.getByRole('link', { name: 'All projects' }).click()
  await page.getByText('Pier (before a backup was restored)').first().click()
  const kept = new Studio(page)
  await kept.drawn()
  for (const name of ['Ball', 'After the backup', 'Not saved']) await expect(kept.row(name)).toHaveCount(1)
})

test('after the core broke, undo goes on where it was', async ({ page, server, studio }) => {
  await page.route(/assets\/worker.*\.js/, async (route) => {
    const answer = await route.fetch({ headers: { ...route.request().headers(), 'accept-encoding': 'identity' } })
    const spoiled = `let real; Object.defineProperty(globalThis, 'wunderkammerCore', { set(f) { real = f }, get() { return (method, argument) => { if (argument.includes('Breaks now')) throw new Error('unreachable'); return real(method, argument) } } });`
    await route.fulfill({ response: answer, body: spoiled + (await answer.text()) })
  })
  await studio.newProject(server.address, 'Steps')
  await studio.add('ellipse', 'One')
  await studio.add('rectangle', 'Two')
  await studio.add('star', 'Three')
  await page.keyboard.press('Control+z') // its name
  await page.keyboard.press('Control+z') // and itself
  await expect(page.getByRole('treeitem')).toHaveCount(2)
  await studio.saved()
  await studio.row('One').dblclick()
  await page.getByRole('textbox', { name: 'Item name' }).fill('Breaks now')
  await page.getByRole('textbox', { name: 'Item name' }).press('Enter')
  await expect(page.getByText('reopened with everything that was saved')).toHaveCount(1)
  await page.keyboard.press('Control+Shift+z')
  await expect(page.getByRole('treeitem')).toHaveCount(3)
  for (let n = 0; n < 5; n++) await page.keyboard.press('Control+z')
  await expect(page.getByRole('treeitem')).toHaveCount(0)
})

test('a core that does not answer is told of, and started anew', async ({ page, server, studio }) => {
  await page.route(/assets\/worker.*\.js/, async (route) => {
    const answer = await route.fetch({ headers: { ...route.request().headers(), 'accept-encoding': 'identity' } })
    const spoiled = `let real; Object.defineProperty(globalThis, 'wunderkammerCore', { set(f) { real = f }, get() { return (method, argument) => { while (argument.includes('For ever')); return real(method, argument) } } });`
    await route.fulfill({ response: answer, body: spoiled + (await answer.text()) })
  })
  await studio.newProject(server.address, 'Endless')
  await studio.add('ellipse', 'One')
  await studio.saved()
  await studio.row('One').dblclick()
  await page.getByRole('textbox', { name: 'Item name' }).fill('For ever')
  await page.getByRole('textbox', { name: 'Item name' }).press('Enter')
  await expect(page.getByText('Working on it…')).toBeVisible()
  await page.getByRole('button', { name: 'Start anew' }).click({ timeout: 30_000 })
  await expect(page.getByText('reopened with everything that was saved')).toHaveCount(1)
  await expect(studio.row('One')).toHaveCount(1)
  await studio.add('star', 'Goes on')
  await studio.saved()
})
