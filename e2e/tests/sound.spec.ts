import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'
import { tone } from '../helpers/tone'

/** Silent, loud from 0.8 s to 1.6 s, and a third as loud from then to 2.7 s. */
const knocks = tone(3.3, (at) => (at < 0.8 ? 0 : at < 1.6 ? 0.9 : at < 2.7 ? 0.3 : 0))
const file = (name: string, buffer: Buffer) => ({ name, mimeType: '', buffer })

const strips = (page: Page) => page.locator('[data-ruler]').getByRole('button', { name: /sound from frame/ })
const names = (page: Page): Promise<string[]> => strips(page).evaluateAll((all) => all.map((s) => s.ariaLabel ?? ''))

/** Types a formula for a property of what is selected. */
async function formula(studio: Studio, property: string, text: string): Promise<void> {
  const { page } = studio
  await studio.field(property).getByRole('button', { name: 'Actions for' }).click()
  await page
    .locator('.n-dropdown-option')
    .filter({ hasText: /^Formula$/ })
    .click()
  await page.locator('.cm-content').click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText(text)
  await page.keyboard.press('Control+Enter')
}

const box = add({ id: 'box', name: 'Box', kind: 'rectangle' })

test('a sound is brought in, seen under the ruler, moved, and drives what follows it @quick', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Heard', [box]))
  await studio.seek(40)
  await page.keyboard.press('a')
  await expect(page.getByRole('combobox', { name: 'What to add, and its name' })).toBeFocused()
  await page.keyboard.type('sound')
  const chosen = page.waitForEvent('filechooser')
  await page.keyboard.press('Enter')
  const chooser = await chosen
  await chooser.setFiles([file('knocks.wav', knocks)])
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 40'])
  // Its loudness drives the box by a formula, typed as any other.
  await studio.select('Box')
  const turn = studio.field('rotation').locator('button.value')
  await studio.seek(70) // 1.2 s into it
  await formula(studio, 'rotation', '{knocks: loudness} * 0.7 + 3')
  await expect.poll(() => studio.value(turn)).toBeCloseTo(73, 0)
  await studio.seek(94) // 2.16 s: a third of it
  await expect.poll(() => studio.value(turn)).toBeCloseTo(3 + 70 / 3, 0)
  await studio.seek(30)
  await expect.poll(() => studio.value(turn)).toBe(3)
  // By keys, quickly: it begins 13 frames earlier, so that it is loud at frame 57.
  await strips(page).focus()
  await page.keyboard.press('Tab') // reached by keyboard, it has the arrows
  await page.keyboard.press('Shift+Tab')
  await page.keyboard.press('Shift+ArrowLeft')
  for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowLeft')
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 27'])
  await studio.seek(57)
  await expect.poll(() => studio.value(turn)).toBeCloseTo(73, 0)
  // By hand, given up, then for good; one step back.
  const at = await studio.middle(strips(page))
  await page.mouse.move(at.x, at.y)
  await page.mouse.down()
  await page.mouse.move(at.x + 90, at.y + 3, { steps: 4 })
  await expect.poll(async () => (await names(page))[0]).not.toContain('frame 27')
  await page.keyboard.press('Escape')
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 27'])
  await page.mouse.up()
  await page.mouse.move(at.x, at.y)
  await page.mouse.down()
  await page.mouse.move(at.x - 90, at.y + 3, { steps: 4 })
  await page.mouse.up()
  await expect.poll(async () => Number((await names(page))[0]?.split(' ').at(-1))).toBeLessThan(10)
  await page.keyboard.press('Delete') // what was dragged has the keys
  await expect(strips(page)).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 27'])
  // As it is after a reload, and removed with what it drove told.
  await studio.saved()
  await page.reload()
  await studio.drawn()
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 27'])
  await strips(page).focus()
  await page.keyboard.press('Delete')
  await expect(page.getByText('which drove Box: rotation', { exact: false })).toBeVisible()
  await expect(strips(page)).toHaveCount(0)
})

test('what cannot be heard is refused in a sentence, and the others come in', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Refused', [box]))
  await studio.bring([
    file(
      'three-hours.wav',
      tone(3 * 3600, () => 0, 3000, 1),
    ),
    file(
      'nothing.wav',
      tone(0, () => 0),
    ),
    file('words.mp3', Buffer.from('these are words')),
    file('knocks.wav', knocks),
  ])
  await expect(page.getByText('3 files could not be imported')).toBeVisible()
  await expect(page.getByText('three-hours.wav: it is 180 minutes long; the limit is 10')).toBeVisible()
  await expect(page.getByText('nothing.wav: it is not a sound')).toBeVisible()
  await expect(page.getByText('words.mp3: it is not a sound')).toBeVisible()
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 0'])
})

test('another sound takes the place of one: what follows it goes on, and a step back brings the first again', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Replaced', [box]))
  await studio.seek(13)
  await studio.bring([file('knocks.wav', knocks)])
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 13'])
  await studio.select('Box')
  await formula(studio, 'rotation', '{knocks: loudness} * 0.7 + 3')
  const turn = studio.field('rotation').locator('button.value')
  await studio.seek(43) // 1.2 s into it
  await expect.poll(() => studio.value(turn)).toBeCloseTo(73, 0)
  const replace = async (by: { name: string; mimeType: string; buffer: Buffer }): Promise<void> => {
    await studio.select('knocks')
    const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Replace…' }).click()])
    expect(chooser.isMultiple()).toBe(false)
    await chooser.setFiles([by])
  }
  await replace(file('words.mp3', Buffer.from('these are words')))
  await expect(page.getByText('Can’t import words.mp3: it is not a sound')).toBeVisible()
  // Silent until 1.5 s, then loud.
  await replace(
    file(
      'later.wav',
      tone(2.9, (at) => (at < 1.5 ? 0 : 0.8)),
    ),
  )
  await expect(page.getByText('2.9 s long')).toBeVisible()
  expect(await names(page)).toEqual(['knocks, sound from frame 13'])
  await studio.select('Box')
  await expect.poll(() => studio.value(turn)).toBe(3)
  await studio.seek(63)
  await expect.poll(() => studio.value(turn)).toBeCloseTo(73, 0)
  await page.keyboard.press('Control+z')
  await studio.seek(43)
  await expect.poll(() => studio.value(turn)).toBeCloseTo(73, 0)
})

test('where the browser opens no chooser by itself, it is offered', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Offered', [box]))
  const active = (isActive: boolean): Promise<void> =>
    page.evaluate(
      (is) => void Object.defineProperty(navigator, 'userActivation', { value: { isActive: is }, configurable: true }),
      isActive,
    )
  await active(false)
  await page.getByRole('button', { name: '+ Add' }).click()
  await page.getByRole('option', { name: 'sound', exact: true }).click()
  await expect(page.getByText('Choose the file to import.')).toBeVisible()
  await active(true)
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Choose…' }).click()])
  await chooser.setFiles([file('knocks.wav', knocks)])
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 0'])
})

test('a sound plays with the playhead, as loud as its volume, and not while it is hidden', async ({ page, server, studio }) => {
  await page.addInitScript(() => {
    const heard: { at: number; volume: number; player: HTMLMediaElement }[] = []
    const play = HTMLMediaElement.prototype.play
    HTMLMediaElement.prototype.play = function () {
      heard.push({ at: this.currentTime, volume: this.volume, player: this })
      return play.call(this)
    }
    Object.assign(window, { heard })
  })
  const played = (): Promise<{ at: number; volume: number; now: number; paused: boolean }[]> =>
    page.evaluate(() =>
      (window as unknown as { heard: { at: number; volume: number; player: HTMLMediaElement }[] }).heard.map((h) => ({
        at: h.at,
        volume: h.volume,
        now: h.player.currentTime,
        paused: h.player.paused,
      })),
    )
  await studio.open(server.address, await projectOf(server, 'Played', [box]))
  await studio.bring([file('knocks.wav', knocks)])
  await expect.poll(() => names(page)).toEqual(['knocks, sound from frame 0'])
  await studio.field('volume').locator('button.value').click()
  await page.keyboard.type('37')
  await page.keyboard.press('Enter')
  await studio.seek(25)
  await page.keyboard.press('Space')
  await expect.poll(async () => (await played()).at(-1)?.now ?? 0).toBeGreaterThan(1.3)
  const [first] = await played()
  expect(first?.at).toBeGreaterThanOrEqual(1)
  expect(first?.at).toBeLessThan(1.5)
  expect(first?.volume).toBeCloseTo(0.37, 5)
  await page.keyboard.press('Space')
  await expect.poll(async () => (await played()).every((p) => p.paused)).toBe(true)
  const before = (await played()).length
  await studio.row('knocks').hover()
  await studio.row('knocks').getByRole('button', { name: 'Hide' }).click()
  await studio.seek(25)
  await page.keyboard.press('Space')
  await page.waitForTimeout(400)
  await page.keyboard.press('Space')
  expect((await played()).length).toBe(before)
})
