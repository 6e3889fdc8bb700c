import { Hand } from '../helpers/hand'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

test('six in a trail, each 200 further and 4 frames later: at most 10 gestures; two more by one', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Trail')
  const hand = new Hand(page)
  const recipes = page.getByRole('dialog').filter({ hasText: 'Recipes' })
  await hand.key('a')
  await hand.type('6 ellipse Dot', 'Shift+Enter')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(6)
  await hand.key('r')
  await hand.press(recipes.getByRole('button', { name: 'Trail', exact: true }))
  await hand.press(recipes.getByLabel('Spacing x'))
  await page.keyboard.press('Control+a')
  await hand.type('200', 'Tab')
  await hand.press(recipes.getByRole('button', { name: 'Apply' }))
  await expect(recipes).toHaveCount(0)
  console.log(`a trail of six: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(10)
  const x = async (name: string): Promise<number> => {
    await studio.select(name)
    await page.waitForTimeout(150) // its Card is there
    return studio.value(studio.field('position').locator('button.value').first())
  }
  const first = await x('Dot 1')
  await expect.poll(() => x('Dot 6')).toBe(first + 1000)
  await studio.select('Dot 5', 'Dot 6')
  const more = new Hand(page)
  await more.key('Control+d')
  await expect(page.getByRole('treeitem')).toHaveCount(8)
  expect(more.count).toBe(1)
  await expect.poll(() => x('Dot 7')).toBe(first + 1200)
  await expect.poll(() => x('Dot 8')).toBe(first + 1400)
  // The first one moves: the others come along, later.
  await studio.select('Dot 1')
  await studio.field('position').locator('button.value').first().click()
  await page.keyboard.type(String(first - 50))
  await page.keyboard.press('Enter')
  await expect.poll(() => x('Dot 8')).toBe(first + 1350)
})

test('the line widths of a drawing of twelve strokes are kept: at most 4 gestures; a recipe that is left changes nothing', async ({
  page,
  server,
  studio,
}) => {
  const stroke = (k: number): object =>
    add({
      id: `s${k}`,
      name: `Stroke ${k + 1}`,
      kind: 'rectangle',
      states: {
        size: { own: [40, 40] },
        strokeWidth: { own: 4 + k },
        position: { own: [k * 60 - 330, 0, 0] },
        scale: { own: [50, 50, 100] },
      },
    })
  await studio.open(
    server.address,
    await projectOf(
      server,
      'Strokes',
      Array.from({ length: 12 }, (_, k) => stroke(k)),
    ),
  )
  const recipes = page.getByRole('dialog').filter({ hasText: 'Recipes' })
  const width = studio.field('strokeWidth').locator('button.value')
  const hand = new Hand(page)
  await hand.key('Control+a')
  await hand.key('r')
  await hand.press(recipes.getByRole('button', { name: 'Keep line widths' }))
  await hand.press(recipes.getByRole('button', { name: 'Apply' }))
  console.log(`line widths kept: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(4)
  await studio.select('Stroke 3')
  await expect(width).toHaveAttribute('data-value', '6') // at a scale of 50 %: drawn with 3, as it was
  await studio.field('scale').locator('button.value').first().click()
  await page.keyboard.type('75')
  await page.keyboard.press('Enter')
  await expect.poll(() => studio.value(width)).toBeCloseTo(3 / 0.625) // 75 % and 50 % are 62.5 % in the middle
  await page.keyboard.press('Control+z')
  await expect(width).toHaveAttribute('data-value', '6')
  // One that is only looked at is gone with its dialog.
  await page.keyboard.press('r')
  await recipes.getByRole('button', { name: 'Flicker' }).click()
  await expect(studio.field('opacity').locator('.chip')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(recipes).toHaveCount(0)
  await expect(studio.field('opacity').locator('.chip')).toHaveCount(0)
  await page.keyboard.press('r')
  await recipes.getByRole('button', { name: 'Trail', exact: true }).click()
  await expect(recipes.getByText('Select at least 2 items.')).toBeVisible()
  await expect(recipes.getByRole('button', { name: 'Apply' })).toBeDisabled()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await expect(studio.field('strokeWidth').locator('.chip')).toHaveCount(0)
  await expect(width).toHaveAttribute('data-value', '6')
})

test('a recipe that does not suit what is selected says so in its dialog, and nowhere else', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Unsuited')
  await page.keyboard.press('a')
  await page.keyboard.type('3 star Star')
  await page.keyboard.press('Shift+Enter')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(3)
  await page.keyboard.press('r')
  const recipes = page.getByRole('dialog').filter({ hasText: 'Recipes' })
  const refusal = recipes.getByRole('alert')
  for (const [name, why] of [
    ['Along a path', 'Select a path among the items'],
    ['Scrub frames', 'has the property frame'],
    ['Loosen', 'None of the selected items hangs on another'],
  ] as const) {
    await recipes.getByRole('button', { name, exact: true }).click()
    await expect(refusal).toContainText(why)
    await expect(recipes.getByRole('button', { name: 'Apply' })).toBeDisabled()
  }
  await expect(page.locator('.n-message')).toHaveCount(0)
  await recipes.getByRole('button', { name: 'Orbit', exact: true }).click()
  await expect(refusal).toHaveCount(0)
  await recipes.getByRole('button', { name: 'Apply' }).click()
  await expect(recipes).toHaveCount(0)
  await expect(page.getByTestId('checks')).toContainText('No problems')
})
