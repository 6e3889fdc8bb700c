import { bytesOf, reader, type Message } from '../../web/src/box/messages'
import { add, projectOf } from '../helpers/api'
import { learnt, moveFaders } from '../helpers/box'
import { option } from '../helpers/hand'
import { expect, test } from '../helpers/test'

const names = ['Wind', 'Glow', 'Tide', 'Sway']
const rig = add({
  id: 'rig',
  name: 'Rig',
  kind: 'null',
  controls: [
    ...names.map((name, k) => ({
      id: name.toLowerCase(),
      name,
      kind: 'fader',
      softMax: 100 + 50 * k,
      default: 0,
    })),
    { id: 'islit', name: 'Lit', kind: 'switch', default: false },
  ],
  states: { wind: { own: 62 }, glow: { own: 33 } },
})

test('a box with faders is learnt, picks values up, and four of its faders are recorded at once', async ({
  page,
  server,
  studio,
  watch,
}) => {
  await studio.open(server.address, await projectOf(server, 'Box', [rig]))
  const box = await learnt(page, studio, watch, 'Rig', names)
  const value = (name: string): Promise<number> => studio.value(studio.control(name).locator('button.value'))
  expect(await value('Wind')).toBe(62)
  // The motors take them to where the controls are, and a control that is moved here takes its fader along.
  const at = (n: number): Promise<number> =>
    box.getByRole('slider', { name: `Fader ${n}` }).evaluate((f: HTMLInputElement) => Number(f.value))
  await expect.poll(() => at(1)).toBeCloseTo(0.62, 3)
  await studio.type('Glow', '75')
  await expect.poll(() => at(2)).toBeCloseTo(0.5, 3)

  // Nothing moves until the fader meets the value; then all that is moved is one step.
  await moveFaders(box, [1], 0.1, 0.45, 5)
  expect(await value('Wind')).toBe(62)
  await moveFaders(box, [1, 3], 0.5, 0.8, 8)
  await expect.poll(() => value('Wind')).toBeCloseTo(80, 1)
  expect(await value('Tide')).toBe(0)
  await page.waitForTimeout(900)
  await page.keyboard.press('Control+z')
  await expect.poll(() => value('Wind')).toBe(62)
  await expect.poll(() => at(1)).toBeCloseTo(0.62, 3)

  // Four at once into pins. The box goes away in the middle of it: what it performed is kept.
  for (const [k, name] of names.entries()) await studio.type(name, String(20 + 10 * k))
  await page.waitForTimeout(600)
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Recording' })).toBeVisible()
  await moveFaders(box, [1, 2, 3, 4], 0.17, 0.62, 24)
  await box.close()
  await expect(page.getByText('Simulated box is gone', { exact: false })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByText(/^Performed 4 controls into \d+ pins\.$/)).toBeVisible()
  for (const [k, name] of names.entries()) {
    const pins = studio.track(name).locator('.pin')
    expect(await pins.count()).toBeGreaterThan(15)
    await expect.poll(() => value(name)).toBeCloseTo(0.62 * (100 + 50 * k), 1)
  }
})

test('keys of a box flip switches; what is forgotten does nothing; bindings stay with the project', async ({
  page,
  server,
  studio,
  watch,
}) => {
  await studio.open(server.address, await projectOf(server, 'Keys of a box', [rig]))
  await studio.control('Lit').locator('.name').click()
  const search = async (text: string): Promise<void> => {
    await page.keyboard.press('Control+k')
    await page.keyboard.type(text)
    await page.keyboard.press('Enter')
  }
  const [box] = await Promise.all([page.waitForEvent('popup'), search('open the simulated one')])
  watch(box)
  await expect(box.getByRole('heading', { name: 'Simulated box' })).toBeVisible()
  await page.bringToFront()
  await studio.control('Lit').locator('.name').click()
  await search('Box with faders: learn')
  await box.getByRole('button', { name: 'Key 3' }).click()
  await expect(page.getByText('Bound: Rig: Lit.')).toBeVisible()
  const lit = studio.control('Lit').getByRole('switch')
  await box.waitForTimeout(850)
  await box.getByRole('button', { name: 'Key 3' }).click()
  await expect(lit).toBeChecked()
  await page.reload()
  await studio.drawn()
  await box.getByRole('button', { name: 'Key 3' }).click()
  await expect(lit).not.toBeChecked()
  await studio.control('Lit').hover()
  await page.getByRole('button', { name: 'Actions for Lit' }).click()
  await option(page, 'Unbind from the box').click()
  await box.getByRole('button', { name: 'Key 3' }).click()
  await page.waitForTimeout(300)
  await expect(lit).not.toBeChecked()
})

test('messages of boxes are read as the standard has them', () => {
  const read = reader()
  const shares: (Message | null)[] = [
    [0xb3, 7, 127], // coarse
    [0xb3, 7, 32],
    [0xb3, 39, 17], // its finer half
    [0xb3, 7, 33], // which is waited for now
    [0xb3, 39, 0],
    [0xb0, 64, 90], // a pedal: nothing finer
    [0xe1, 5, 96],
    [0x95, 40, 80],
    [0x95, 40, 0], // let go
  ].map(read)
  expect(shares).toEqual([
    { from: '4 control 7', share: 1 },
    { from: '4 control 7', share: 32 / 127 },
    { from: '4 control 7', share: (32 * 128 + 17) / 16383 },
    null,
    { from: '4 control 7', share: (33 * 128) / 16383 },
    { from: '1 control 64', share: 90 / 127 },
    { from: '2 bend', share: (96 * 128 + 5) / 16383 },
    { from: '6 note 40', pressed: true },
    null,
  ])
  // What nobody knows, halves of messages, and numbers that are none.
  for (const odd of [
    [],
    [0xf8],
    [0xf0, 1, 2, 0xf7],
    [0xc0, 5],
    [0xb0, 7],
    [0xb0, 200, 3],
    [0xb0, 3, 200],
    [0xb0, 123, 0],
    [0xa0, 1, 2],
    [0xb0, 40, 9],
  ])
    expect(read(odd)).toBeNull()
  for (const from of ['4 control 7', '1 control 64', '2 bend']) {
    const back = reader()
    const sent = bytesOf(from, 0.3141)
    const said = sent.map((b) => back(b)).at(-1)
    expect(said && 'share' in said ? said.share : NaN).toBeCloseTo(0.3141, from.endsWith('64') ? 2 : 4)
  }
})
