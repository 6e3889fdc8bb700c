import { add, projectOf } from '../helpers/api'
import { watchScript } from '../helpers/costs'
import { expect, test } from '../helpers/test'
import { sheet } from '../helpers/sheet'

/** What a sheet of 300 slips costs the page while it plays, with all of them in sight, and panned. */
test('300 slips with live values', async ({ page, server, studio }) => {
  const slips: object[] = [
    { id: 't', kind: 'words', text: 'clock', at: [0, 0] },
    { id: 'r', kind: 'read', text: '{@rig:@amount}', at: [0, 160] },
  ]
  const wires: object[] = []
  const calls = ['+', 'wave', '*', 'max']
  for (let k = 0; k < 297; k++) {
    const text = calls[k % 4] as string
    const fields = text === 'wave' ? undefined : { 2: '0.5' }
    slips.push({ id: `s${k}`, kind: 'apply', text, ...(fields && { fields }), at: [200 + (k % 20) * 190, Math.floor(k / 20) * 130] })
    wires.push(k % 20 ? { from: `s${k - 1}`, to: `s${k}`, in: '1' } : { from: 't', out: 'time', to: `s${k}`, in: '1' })
    if (k % 7 === 0 && fields) wires.push({ from: 'r', to: `s${k}`, in: '2' })
  }
  slips.push({ id: 'd', kind: 'drive', at: [4200, 0] })
  wires.push({ from: 's19', to: 'd', in: 'in' })
  const link = { id: 'l', kind: 'graph', graph: 'g', slip: 'd', gain: 1, source: {} }
  const id = await projectOf(server, 'Long', [
    add({ id: 'rig', name: 'Rig', kind: 'null', controls: [{ id: 'amount', name: 'Amount', kind: 'slider', softMax: 100, default: 3 }] }),
    add({ id: 'box', name: 'Box', kind: 'rectangle', states: { rotation: { links: [link] } } }),
    { op: 'graph.add', composition: 'main', value: { id: 'g', name: 'Long', slips, wires }, at: -1 },
  ])
  await studio.open(server.address, id)
  await page.keyboard.press('4')
  await expect(page.locator('[data-slip]').first()).toBeVisible()
  await sheet(page).focus()
  for (const [what, keys] of [
    ['read at first, pulled up', ['g']],
    ['all in sight on a large screen, pulled up', ['f', 'f']],
  ] as const) {
    if (keys[0] === 'f') await page.setViewportSize({ width: 2560, height: 1440 })
    await page.waitForTimeout(500)
    await sheet(page).focus()
    for (const k of keys) await page.keyboard.press(k)
    await page.waitForTimeout(1500)
    const shown = await page.locator('[data-slip]').count()
    const frame = async (): Promise<number> => Number((await studio.stage.getAttribute('data-drawn'))?.split(':')[1])
    const seen = async (): Promise<string[]> => page.locator('.slip .out .value').allTextContents()
    const values = await seen()
    const before = await frame()
    const script = await watchScript(page)
    await page.keyboard.press(' ')
    await page.waitForTimeout(4000)
    const [ran, drawn] = [await script(), (await frame()) - before]
    await page.keyboard.press(' ')
    const moved = (await seen()).filter((v, k) => v !== values[k]).length
    console.log(
      `  300 slips, ${what} (${shown} drawn, ${moved} others now): ${(ran / drawn).toFixed(1)} ms of the page's script a frame, ${(drawn / 4).toFixed(1)} frames a second`,
    )
  }
})
