import { drag, summary, watchScript } from '../helpers/costs'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

/** Many items that are selected at once, with the Card open. */
for (const n of [1000, 10_000])
  test(`${n} selected`, async ({ page, server, studio }) => {
    const ops = [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [{ id: 'amount', name: 'Amount', kind: 'fader', softMax: 100, default: 0 }] }),
    ]
    for (let i = 0; i < n; i++) {
      const link = { id: `l${i}`, kind: 'follow', source: { item: 'rig', property: 'amount' }, gain: 0.9, offset: i % 7 }
      ops.push(
        add({ id: `i${i}`, name: `Crate ${i}`, kind: 'rectangle', hidden: i >= 200, states: { opacity: { own: null, links: [link] } } }),
      )
    }
    await studio.open(server.address, await projectOf(server, `${n} crates`, ops))
    const until = async (what: string, act: () => Promise<unknown>, done: () => Promise<unknown>): Promise<void> => {
      const script = await watchScript(page)
      const began = Date.now()
      await act()
      await done()
      console.log(`\n${n} selected: ${what}: ${Date.now() - began} ms, ${Math.round(await script())} ms of script`)
    }
    await studio.row('Crate 0').click()
    await until(
      'all that there are',
      () => page.keyboard.press('Shift+End'),
      () => expect(page.getByRole('heading', { name: new RegExp(`^${n} rectangles`) })).toBeVisible(),
    )
    const script = await watchScript(page)
    const steps = 30
    const times = await drag(page, 'Amount', steps)
    console.log(`${n} selected: fader drag to drawn frame: ${summary(times)}; ${((await script()) / steps).toFixed(1)} ms of script a step`)
    const width = studio.field('strokeWidth')
    await until(
      'a value for all',
      async () => {
        await width.locator('button.value').click()
        await page.keyboard.type('7')
        await page.keyboard.press('Enter')
      },
      () => expect(width.locator('button.value')).toHaveText(/7/),
    )
    await until(
      'all pinned',
      () => width.getByRole('button', { name: /^Pin / }).click(),
      () => expect(width.getByRole('button', { name: /^Remove the pin/ })).toBeVisible(),
    )
  })
