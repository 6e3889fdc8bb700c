import { played } from '../helpers/lottie'
import { difference } from '../helpers/pixels'
import { expect, test } from '../helpers/test'

const still = (k: unknown): object => ({ a: 0, k })
/** Keys of a value that goes evenly from one to the next. */
const moved = (...keys: [frame: number, value: unknown][]): object => ({
  a: 1,
  k: keys.map(([t, s]) => ({ t, s: Array.isArray(s) ? (s as unknown[]) : [s], o: { x: 0.167, y: 0.167 }, i: { x: 0.833, y: 0.833 } })),
})
const place = (more: object = {}): object => ({
  p: still([0, 0]),
  a: still([0, 0]),
  s: still([100, 100]),
  r: still(0),
  o: still(100),
  ...more,
})
const tr = (more: object = {}): object => ({ ty: 'tr', ...place(more) })
const group = (name: string, ...it: object[]): object => ({ ty: 'gr', nm: name, it })
const fill = (...c: number[]): object => ({ ty: 'fl', c: still(c), o: still(100), r: 1 })
const stroke = (w: number): object => ({ ty: 'st', c: still([0.1, 0.1, 0.2, 1]), o: still(100), w: still(w), lc: 2, lj: 2 })
const ends = { ip: 0, op: 100, st: 0 }
const zero = [
  [0, 0],
  [0, 0],
  [0, 0],
  [0, 0],
]
const sail = (x: number): object => ({
  c: true,
  v: [
    [0, -90],
    [x, 10],
    [0, 120],
    [-70, 0],
  ],
  i: zero,
  o: zero,
})

/** A harbour of what the form has: layers that hang on others, paths in space, parts in time, gradients, trimmed lines. */
const harbour = {
  v: '5.7.0',
  fr: 25,
  ip: 0,
  op: 100,
  w: 1280,
  h: 720,
  ddd: 0,
  assets: [
    {
      id: 'boat',
      layers: [
        {
          ty: 4,
          ind: 1,
          nm: 'Hull',
          ip: 0,
          op: 300,
          st: 0,
          ks: place({ p: still([120, 90]) }),
          shapes: [
            group(
              'Planks',
              {
                ty: 'sh',
                ks: still({
                  c: true,
                  v: [
                    [-90, 0],
                    [90, 0],
                    [50, 45],
                    [-60, 45],
                  ],
                  i: [
                    [0, 0],
                    [0, 0],
                    [20, 0],
                    [0, 0],
                  ],
                  o: [
                    [0, 0],
                    [0, 0],
                    [-30, 12],
                    [-20, -10],
                  ],
                }),
              },
              stroke(5),
              fill(0.7, 0.3, 0.15, 1),
              tr({ r: moved([0, -6], [40, 6], [90, -6]), o: still(85) }),
            ),
          ],
        },
        { ty: 1, ind: 2, nm: 'Mast', ip: 0, op: 300, st: 0, sw: 9, sh: 90, sc: '#3b2a1e', ks: place({ p: still([116, 5]) }) },
      ],
    },
  ],
  layers: [
    {
      ty: 3,
      ind: 9,
      nm: 'Wind',
      ...ends,
      ks: place({
        p: {
          a: 1,
          k: [
            { t: 0, s: [260, 420], o: { x: 0.4, y: 0.05 }, i: { x: 0.5, y: 0.95 }, to: [60, -190], ti: [-140, -20] },
            { t: 70, s: [700, 260], o: { x: 0.3, y: 0.3 }, i: { x: 0.7, y: 0.7 }, to: [80, 10], ti: [0, -60] },
            { t: 95, s: [860, 380] },
          ],
        },
        s: moved([0, [100, 100]], [80, [130, 70]]),
      }),
    },
    {
      ty: 4,
      ind: 1,
      parent: 9,
      nm: 'Kite',
      ...ends,
      ks: place({ r: moved([0, 0], [99, 200]), a: still([0, 20]) }),
      shapes: [
        group(
          'Sail',
          {
            ty: 'sh',
            ks: { a: 1, k: [0, 45, 90].map((t, n) => ({ t, s: [sail(60 + 50 * (n % 2))], o: { x: 0.3, y: 0 }, i: { x: 0.6, y: 1 } })) },
          },
          stroke(6),
          {
            ty: 'gf',
            t: 1,
            s: still([-60, -50]),
            e: still([60, 80]),
            o: still(100),
            r: 1,
            g: { p: 3, k: still([0, 0.95, 0.8, 0.2, 0.35, 0.9, 0.3, 0.2, 1, 0.3, 0.1, 0.4]) },
          },
          tr(),
        ),
      ],
    },
    {
      ty: 4,
      ind: 2,
      nm: 'Star',
      ip: 20,
      op: 80,
      st: 0,
      ks: place({ p: still([980, 190]), o: moved([20, 100], [79, 40]) }),
      shapes: [
        {
          ty: 'sr',
          sy: 1,
          pt: still(5),
          or: moved([0, 90], [99, 130]),
          ir: still(42),
          r: still(13),
          p: still([0, 0]),
          os: still(0),
          is: still(0),
        },
        stroke(8),
        fill(1, 0.85, 0.4, 1),
      ],
    },
    {
      ty: 4,
      ind: 3,
      nm: 'Ring',
      ...ends,
      ks: place({ p: { s: true, x: moved([0, 1000], [60, 1120]), y: moved([0, 520], [30, 470], [90, 560]) } }),
      shapes: [
        { ty: 'el', s: still([170, 130]), p: still([14, -9]) },
        { ...stroke(16), c: moved([0, [0.1, 0.5, 0.5, 1]], [90, [0.8, 0.2, 0.3, 1]]) },
        { ty: 'tm', s: still(12), e: moved([0, 20], [90, 95]), o: still(0), m: 1 },
      ],
    },
    {
      ty: 0,
      ind: 4,
      nm: 'Boat',
      refId: 'boat',
      w: 240,
      h: 200,
      ip: 0,
      op: 100,
      st: -13,
      ks: place({ p: moved([0, [90, 470]], [99, [420, 500]]) }),
    },
    {
      ty: 4,
      ind: 5,
      nm: 'Moon',
      ...ends,
      ks: place({ p: still([1130, 130]) }),
      shapes: [
        { ty: 'rc', s: still([120, 120]), p: still([0, 0]), r: still(28) },
        {
          ty: 'gf',
          t: 2,
          s: still([-10, -10]),
          e: still([60, 0]),
          o: still(100),
          r: 1,
          g: { p: 2, k: still([0, 1, 1, 0.9, 1, 0.9, 0.7, 0.3]) },
        },
      ],
    },
    { ty: 1, ind: 6, nm: 'Sky', ...ends, sw: 1280, sh: 720, sc: '#8fb0c8', ks: place() },
  ],
}

test('a Lottie comes in with its layers, keys and paths, and shows at every moment what a player shows', async ({
  page,
  server,
  studio,
}) => {
  test.setTimeout(180_000)
  const text = JSON.stringify(harbour)
  await studio.newProject(server.address, 'Harbour')
  await studio.bring({ name: 'harbour.json', mimeType: 'application/json', buffer: Buffer.from(text) })
  await expect(studio.row('Kite')).toBeVisible()
  await expect(page.getByRole('dialog')).toHaveCount(0) // all of it was understood
  await studio.select('Wind')
  await expect(page.getByText('Wind: position')).toBeVisible()
  await studio.saved()
  const id = page.url().split('/').pop()
  const shares: number[] = []
  await page.goto('about:blank')
  await page.setViewportSize({ width: 1280, height: 720 })
  for (const frame of [0, 7, 31, 58, 79, 93]) {
    const svg = await (await fetch(`${server.address}/api/projects/${id}/frame.svg?composition=main&frame=${frame}`)).text()
    const theirs = await played(page, text, frame)
    await page.setContent(`<style>body{margin:0}svg{display:block}</style>${svg.slice(svg.indexOf('<svg'))}`)
    shares.push(await difference(page, theirs, await page.screenshot()))
  }
  console.log(`a Lottie brought in: ${shares.map((x) => x.toFixed(2)).join(', ')} % differ from a player`)
  for (const share of shares) expect(share).toBeLessThan(0.3)
})
