import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'
import { change, projectOf } from '../helpers/api'
import { difference, staged } from '../helpers/pixels'
import { expect, test } from '../helpers/test'

const file = (name: string): string => fileURLToPath(new URL(`../files/${name}`, import.meta.url))

/** Chromium's own picture of an SVG drawing. */
async function plain(page: Page, text: string, width: number, height: number): Promise<Buffer> {
  const other = await page.context().newPage()
  await other.setViewportSize({ width, height })
  await other.setContent(`<style>body{margin:0}svg{display:block}</style>${text.slice(text.indexOf('<svg'))}`)
  const picture = await other.screenshot()
  await other.close()
  return picture
}

// With smooth edges, as a graphics card draws them, and without what the studio draws over the picture.
test.beforeEach(({ page }) =>
  page.addInitScript(() => {
    localStorage.setItem('wunderkammer:smooth', 'on')
    localStorage.setItem('wunderkammer:marks', 'false')
  }),
)

for (const name of ['shapes', 'paths', 'transforms', 'gradients', 'strokes']) {
  test(`a drawing of ${name} looks in the viewport as it does in the browser`, async ({ page, server, studio }) => {
    const project = await projectOf(server, name, [{ op: 'composition.set', width: 400, height: 300, background: [1, 1, 1, 1] }])
    await studio.open(server.address, project)
    await studio.bring(file(`${name}.svg`))
    await expect(studio.row(name)).toHaveCount(1)
    await page.keyboard.press('Escape')
    const text = readFileSync(file(`${name}.svg`), 'utf8')
    const share = await difference(page, await plain(page, text, 400, 300), await staged(page, 400, 300))
    console.log(`${name}: ${share.toFixed(2)} % of the pixels differ`)
    expect(share).toBeLessThan(2)
    // And out again, as the server writes it.
    await studio.saved()
    const back = await (await fetch(`${server.address}/api/projects/${project}/frame.svg`)).text()
    const again = await difference(page, await plain(page, text, 400, 300), await plain(page, back, 400, 300))
    console.log(`${name}, written again: ${again.toFixed(2)} %`)
    expect(again).toBeLessThan(2)
  })
}

test('frame 100 of the demo as SVG looks like the viewport', async ({ page, demo, studio }) => {
  await page.setViewportSize({ width: 1900, height: 1200 })
  // What is no line, and what light makes of lines, is no part of an SVG file.
  const { project } = (await (await fetch(`${demo.address}/api/projects/lanternfall`)).json()) as {
    project: { compositions: { id: string; items: { id: string; kind: string; states?: Record<string, unknown> }[] }[] }
  }
  const c = project.compositions[0]
  const drawn = ['rectangle', 'ellipse', 'polygon', 'star', 'path', 'text']
  const ops = c?.items.flatMap((item): object[] => {
    if (item.kind === 'null') return []
    if (!drawn.includes(item.kind)) return [{ op: 'item.set', item: item.id, hidden: true }]
    return [{ op: 'own.set', item: item.id, property: 'lit', value: 0 }]
  })
  await change(demo, 'lanternfall', 0, ops ?? [], c?.id)
  await studio.open(demo.address, 'lanternfall')
  await studio.seek(100)
  const text = await (await fetch(`${demo.address}/api/projects/lanternfall/frame.svg?frame=100`)).text()
  await page.addStyleTag({ content: '.mark { display: none }' })
  const share = await difference(page, await plain(page, text, 1280, 720), await staged(page, 1280, 720))
  console.log(`the demo: ${share.toFixed(2)} % of the pixels differ`)
  expect(share).toBeLessThan(2)
})

test('what cannot be brought in is told in a sentence, and nothing changes', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Bad files')
  const bad = (name: string, mimeType: string, text: string): { name: string; mimeType: string; buffer: Buffer } => ({
    name,
    mimeType,
    buffer: Buffer.from(text),
  })
  for (const [given, says] of [
    [bad('empty.svg', 'image/svg+xml', ''), 'empty.svg: the file is empty'],
    [
      bad('bomb.svg', 'image/svg+xml', '<!DOCTYPE svg [<!ENTITY a "x">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>'),
      'its own entities',
    ],
    [
      bad('many.svg', 'image/svg+xml', `<svg xmlns="http://www.w3.org/2000/svg">${'<rect width="1" height="1"/>'.repeat(100_000)}</svg>`),
      'more than 20000 elements',
    ],
    [bad('half.svg', 'image/svg+xml', '<svg><rect'), 'not valid SVG'],
    [bad('nothing.png', 'image/png', ''), 'nothing.png: The file is empty'],
    [bad('words.png', 'image/png', 'just words'), 'neither a picture nor a sound that can be read'],
  ] as const) {
    await studio.bring(given)
    await expect(page.getByText(says).last()).toBeVisible()
  }
  await expect(page.getByRole('treeitem')).toHaveCount(0)
  await studio.bring(
    bad(
      'partly.svg',
      'image/svg+xml',
      '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><script>alert(1)</script><rect id="plank" width="50" height="50"/></svg>',
    ),
  )
  await expect(page.locator('.n-dialog')).toContainText('a script')
  await page.locator('.n-dialog').getByRole('button', { name: 'Close' }).click()
  await expect(studio.row('partly')).toHaveCount(1)
})

test('many flat items one over the other look and are picked as each by itself, also while some of them change', async ({
  page,
  server,
  studio,
}) => {
  const project = await projectOf(server, 'Heap', [
    { op: 'composition.set', width: 400, height: 300, background: [1, 1, 1, 1] },
    ...Array.from({ length: 24 }, (_, i) => ({
      op: 'item.add',
      at: -1,
      value: {
        id: `i${i}`,
        name: `Leaf ${i}`,
        kind: ['rectangle', 'ellipse', 'star'][i % 3],
        states: {
          size: { own: [120, 90] },
          position: { own: [(i % 6) * 50 - 125, Math.floor(i / 6) * 50 - 75, 0] },
          rotation: { own: i * 17 },
          fill: { own: [(i % 5) / 4, (i % 7) / 6, (i % 3) / 2, i % 4 ? 1 : 0.5] },
          strokeWidth: { own: i % 2 ? 6 : 0 },
          // One in the middle has a gradient, so that those above and those below it are drawn apart.
          ...(i === 11 ? { gradient: { own: 1 } } : {}),
        },
      },
    })),
  ])
  await studio.open(server.address, project)
  const looks = async (): Promise<void> => {
    await page.keyboard.press('Escape')
    await studio.saved()
    const text = await (await fetch(`${server.address}/api/projects/${project}/frame.svg`)).text()
    expect(await difference(page, await plain(page, text, 400, 300), await staged(page, 400, 300))).toBeLessThan(1)
  }
  await looks()
  // The front one is picked, and what is done to one of them shows.
  const box = await page.getByTestId('stage').boundingBox()
  if (!box) throw new Error('there is no stage')
  await page.mouse.click(box.x + box.width / 2 - 125, box.y + box.height / 2 + 75)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Leaf 0')
  await page.keyboard.press('Alt+Shift+ArrowRight')
  await looks()
  await studio.select('Leaf 5', 'Leaf 6', 'Leaf 11')
  await page.keyboard.press('Delete')
  await expect(page.getByRole('treeitem')).toHaveCount(21)
  await looks()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('treeitem')).toHaveCount(24)
  await looks()
})
