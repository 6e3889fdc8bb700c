import type { Page } from '@playwright/test'
import { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

/** Makes the core of a page break when it is told something with these words, or evaluates this frame. */
async function fragile(page: Page, words: string, frame = -1): Promise<void> {
  const spoiled = `
    const real = {};
    for (const [name, breaks] of [['wunderkammerCore', (_, argument) => argument.includes(${JSON.stringify(words)})], ['wunderkammerFrame', (at) => at === ${frame}]])
      Object.defineProperty(globalThis, name, { set(f) { real[name] = f }, get() { return (...a) => { if (breaks(...a)) throw new Error('unreachable'); return real[name](...a) } } });
  `
  await page.route(/assets\/worker.*\.js/, async (route) => {
    const answer = await route.fetch({ headers: { ...route.request().headers(), 'accept-encoding': 'identity' } })
    await route.fulfill({ response: answer, body: spoiled + (await answer.text()) })
  })
}

test('a change whose answer was lost is not made twice, over newer work, by a reload', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Lost answer')
  await studio.add('ellipse', 'Ball')
  await studio.saved()
  let arrived = 0
  await page.route(/\/changes$/, async (route) => {
    await route.fetch() // it arrives
    arrived++
    await route.abort() // and nobody says so
  })
  await page.routeWebSocket(/\/live/, () => {}) // nor is it told by the line, once it breaks
  await studio.select('Ball')
  await page.keyboard.press('Control+d')
  await expect(page.getByRole('treeitem')).toHaveCount(2)
  await expect.poll(() => arrived).toBeGreaterThan(0)
  // Another window takes the copy away again.
  const other = new Studio(await (await page.context().browser()!.newContext()).newPage())
  await other.page.goto(page.url())
  await other.drawn()
  await expect(other.row('Ball 2')).toHaveCount(1)
  await other.select('Ball 2')
  await other.page.keyboard.press('Delete')
  await other.saved()
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  await page.reload()
  await studio.drawn()
  await studio.saved()
  await expect(page.getByRole('treeitem')).toHaveCount(1)
  await expect(studio.row('Ball')).toHaveCount(1)
  await other.page.context().close()
})

test('a core that breaks is started anew with all that was done, and says so once', async ({ page, server, studio }) => {
  await fragile(page, 'Breaks now')
  await studio.newProject(server.address, 'Fragile')
  await studio.add('ellipse', 'Ball')
  await studio.saved()
  await page.route(/\/changes$/, (route) => route.abort())
  await studio.add('rectangle', 'Not saved yet')
  await studio.row('Ball').dblclick()
  await page.getByRole('textbox', { name: 'Item name' }).fill('Breaks now')
  await page.getByRole('textbox', { name: 'Item name' }).press('Enter')
  await expect(page.getByText('reopened with everything that was saved')).toHaveCount(1)
  await page.unroute(/\/changes$/)
  await studio.saved()
  await expect(studio.row('Ball')).toHaveCount(1)
  await expect(studio.row('Not saved yet')).toHaveCount(1)
  await studio.add('text', 'Goes on')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  await expect(page.getByRole('treeitem')).toHaveCount(3)
})

test('a core that breaks over and over closes the project, with a way back', async ({ page, server, studio }) => {
  await fragile(page, 'nobody says this', 3)
  await studio.newProject(server.address, 'Hopeless')
  await studio.add('ellipse', 'Ball')
  await studio.saved()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
  await expect(page.getByText('Saved work is safe')).toBeVisible()
  await page.getByRole('button', { name: 'Back to projects' }).click()
  await expect(page.getByText('Hopeless')).toBeVisible()
})

test('what an earlier version left behind is mended when the project is opened, and said', async ({ page, server, studio }) => {
  await page.route(/\/api\/projects\/\w+\/opening$/, async (route) => {
    const answer = await route.fetch()
    const all = await answer.body()
    const end = 4 + all.readUInt32LE(0)
    const read = JSON.parse(all.toString('utf8', 4, end)) as object
    const text = Buffer.from(JSON.stringify({ ...read, healed: ['Main: what was set of a weight was dropped.'] }))
    const head = Buffer.alloc(4)
    const room = Buffer.alloc((8 - ((4 + text.length) % 8)) % 8, ' ')
    head.writeUInt32LE(text.length + room.length)
    await route.fulfill({ response: answer, body: Buffer.concat([head, text, room, all.subarray(end)]) })
  })
  await studio.newProject(server.address, 'Old')
  await expect(page.getByText('what was set of a weight was dropped')).toBeVisible()
})

test('changes that were not saved stand one by one in the database of the browser', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Kept')
  await studio.saved()
  await server.stop('SIGKILL')
  await studio.add('ellipse', 'One')
  await studio.add('ellipse', 'Two')
  const kept = () =>
    page.evaluate(
      () =>
        new Promise<number>((resolve, reject) => {
          const asked = indexedDB.open('wunderkammer')
          asked.onerror = () => reject(new Error('no database'))
          asked.onsuccess = () => {
            const count = asked.result.transaction('unsent').objectStore('unsent').count()
            count.onsuccess = () => resolve(count.result)
          }
        }),
    )
  await expect.poll(kept).toBeGreaterThanOrEqual(2)
  await server.start()
  await studio.saved()
  await expect.poll(kept).toBe(0)
})

test('changes that an earlier version kept in the local storage are taken over', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Older')
  await studio.saved()
  const project = page.url().split('/').at(-1) as string
  await page.evaluate((id) => {
    const ops = [{ op: 'item.add', composition: 'main', at: -1, value: { id: 'left', name: 'Left behind', kind: 'ellipse' } }]
    localStorage.setItem(`wunderkammer:unsent:${id}:gone`, JSON.stringify([{ id: 'older1', base: 1, ops }]))
    localStorage.setItem(`wunderkammer:unsent:${id}:torn`, '[{"id":')
  }, project)
  await page.reload()
  await studio.drawn()
  await expect(studio.row('Left behind')).toHaveCount(1)
  await studio.saved()
  expect(await page.evaluate(() => Object.keys(localStorage).filter((k) => k.includes('unsent')))).toEqual([])
  await page.reload()
  await studio.drawn()
  await expect(studio.row('Left behind')).toHaveCount(1)
})
