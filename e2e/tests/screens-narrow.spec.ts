import { outOfReach } from '../helpers/reach'
import { journeys, walk } from '../helpers/states'
import { expect, test } from '../helpers/test'

// Every screen in half of a small window, as at 200 %: all is reached.
for (const journey of journeys)
  test(journey.name, async ({ page, demo, server, studio }) => {
    test.setTimeout(300_000)
    await page.setViewportSize({ width: 640, height: 400 })
    const found: string[] = []
    await walk(journey, { page, demo, server, studio }, async (state) => void found.push(...(await outOfReach(page, state))))
    expect(found).toEqual([])
  })
