import { dim, faults } from '../helpers/axe'
import { compare, rolesOf, write } from '../helpers/roles'
import { tooSmall } from '../helpers/sizes'
import { journeys, walk } from '../helpers/states'
import { expect, test } from '../helpers/test'

// Every screen: what axe finds by day and by lamp, what is too small for a hand or an eye, and what a screen reader is told.
for (const journey of journeys)
  test(journey.name, async ({ page, demo, server, studio }) => {
    test.setTimeout(300_000)
    await page.addInitScript(() => localStorage.setItem('wunderkammer:theme', 'daylight'))
    const found: string[] = []
    const told = new Set<string>()
    await walk(journey, { page, demo, server, studio }, async (state) => {
      found.push(...(await faults(page, state)), ...(await tooSmall(page, state)), ...(await dim(page, state)))
      for (const one of await rolesOf(page)) told.add(one)
    })
    if (process.env.UPDATE) write(journey.name, told)
    found.push(...[...told].filter((one) => one.endsWith(': ')).map((one) => `without a name: ${one}`), ...compare(journey.name, told))
    expect(found).toEqual([])
  })
