import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { add, projectOf } from '../helpers/api'
import { difference, printed } from '../helpers/exact'
import { run } from '../helpers/server'
import { expect, test } from '../helpers/test'

test('the browser and the command line give the same bits at every frame of the demo', async ({ page, demo, studio }) => {
  test.setTimeout(180_000)
  await studio.open(demo.address, 'lanternfall')
  const frames = printed('demo', 299)
  expect(frames).toHaveLength(300)
  let compared = 0
  for (const [frame, expected] of frames.entries()) {
    const wrong = await difference(page, frame, expected)
    expect(wrong, `frame ${frame}`).toBe('')
    compared += expected.length
  }
  expect(compared).toBeGreaterThan(300 * 4000)
})

test('what the Card shows is what the command line prints', async ({ demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.row('Upper garland').getByRole('button', { name: 'Expand' }).click()
  await studio.select('Lantern 3')
  for (const frame of [0, 50]) {
    await studio.seek(frame)
    const printedValue = run('eval', 'demo', '--frame', String(frame), 'Lantern 3: rotation').trim()
    await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', printedValue)
  }
})

test('particles are the same played to and jumped to, in the browser and on the command line', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  const fly = (frame: number): Promise<number[]> => page.evaluate(async (f) => Array.from(await window.wunderkammer.particles(f)), frame)
  const jumped = await fly(200)
  for (let f = 150; f < 200; f++) await fly(f)
  const played = await fly(200)
  expect(played).toEqual(jumped)
  const printedLines = run('eval', 'demo', '--frame', '200', '--particles', 'Sparks').trimEnd().split('\n')
  expect(printedLines.length).toBeGreaterThan(50)
  // The browser hands them over as single precision, behind the index of the emitter and their number.
  const expected = printedLines.flatMap((line) => line.split('\t').map((x) => Math.fround(Number(x))))
  expect(played[1]).toBe(printedLines.length)
  expect(played.slice(2)).toEqual(expected)
})

/** Chance that is the same in every run. */
function chance(seed: number): (n: number) => number {
  let state = seed
  return (n) => {
    state = (state * 48271) % 2147483647
    return state % n
  }
}

/** A project made at random: rows with formulas that trail, feed back, look at other times and write texts. */
function generated(seed: number): object[] {
  const pick = chance(seed)
  const one = (list: string[]): string => list[pick(list.length)] as string
  const formula = (): string =>
    one([
      'noise(time * 2, index) * {@rig:@amount}',
      'wave(time - share) * 40 + own',
      'if(index = 0, {@rig:@amount}, delay({prev:@rotation}, {@rig:@lag}) * 0.97)',
      'mix(delay({self:@rotation}, 1f), {@rig:@amount}, 0.3)',
      'accumulate({@rig:@amount}) / 5',
      'average({@rig:@amount}, 9f) - every(random(floor(time * 3)) * 30, 5f)',
      'at({@rig:@amount}, time / 2) + ({next:@opacity} else 4)',
      'sin(time * 90 + number * 20) * exp(-time) * 30',
      'pow(abs({@rig:@amount}) + 1, 0.37) * log(number + 1)',
    ])
  const ops = [
    add({
      id: 'rig',
      name: 'Rig',
      kind: 'null',
      controls: [
        { id: 'amount', name: 'Amount', kind: 'slider', softMax: 100, default: 5 },
        { id: 'lag', name: 'Lag', kind: 'slider', unit: 's', softMax: 2, default: 0.12 },
      ],
      states: {
        amount: {
          own: null,
          pins: [0, 20, 45, 60].map((frame) => ({ frame, value: pick(200) - 100, easing: one(['linear', 'smooth', 'hold']) })),
        },
      },
    }),
  ]
  for (let i = 0; i < 12; i++)
    ops.push(
      add({ id: `m${i}`, name: `Member ${i}`, kind: 'rectangle', parent: 'rig', states: { position: { own: [i * 10, pick(50), 0] } } }),
    )
  ops.push(
    add({
      id: 'sign',
      name: 'Sign',
      kind: 'text',
      states: {
        text: {
          own: null,
          links: [{ id: 't', kind: 'formula', gain: 1, offset: 0, formula: 'text("at ", fixed({@rig:@amount}, 2), " ", floor(time))' }],
        },
      },
    }),
  )
  const spread = (id: string, property: string, link: object): object => ({
    op: 'spread.add',
    at: -1,
    value: {
      id,
      name: id,
      roster: { kind: 'children', item: 'rig' },
      property,
      link: { id: `l${id}`, gain: 1, offset: 0, source: { item: '', property: '' }, ...link },
    },
  })
  ops.push(spread('a', 'rotation', { kind: 'formula', formula: formula(), stagger: { offset: pick(5) } }))
  ops.push(
    spread('b', 'opacity', {
      kind: 'follow',
      source: { item: 'rig', property: 'amount' },
      stagger: { delay: 1 + pick(4), by: one(['number', 'share']) },
    }),
  )
  ops.push(spread('c', 'fill', { kind: 'formula', formula: 'hsl(time * 60 + index * 30, 0.6, 0.5)' }))
  ops.push(
    spread('d', 'scale', {
      kind: 'formula',
      formula: '[100 + wave(time + share) * 20, 100, 100]',
      operation: one(['add', 'multiply']),
      delay: pick(7),
    }),
  )
  // Rows on the first members, and the vertices of a path.
  for (let i = 0; i < 6; i++) ops.push(add({ id: `t${i}`, name: `Tail ${i}`, kind: 'rectangle', parent: i % 3 ? `t${i - 1}` : `m${i}` }))
  ops.push(
    add({
      id: 'rope',
      name: 'Rope',
      kind: 'path',
      path: { contours: [{ vertices: [0, 1, 2, 3, 4].map((k) => ({ id: k + 1, at: [k * 40, pick(30)], in: [0, 0], out: [0, 0] })) }] },
    }),
  )
  const on = (id: string, roster: object, property: string, formula: string): object => ({
    op: 'spread.add',
    at: -1,
    value: {
      id,
      name: id,
      roster,
      property,
      link: { id: `l${id}`, kind: 'formula', gain: 1, offset: 0, source: { item: '', property: '' }, formula },
    },
  })
  ops.push(
    on(
      'e',
      { kind: 'chain', of: { kind: 'children', item: 'rig' } },
      'rotation',
      one([
        'delay({outer self:@rotation}, index * 2f + 1f) + outer index',
        'delay({prev:@rotation} else {outer prev:@opacity}, {@rig:@lag}) * 0.9 + noise(time, outer number)',
      ]),
    ),
  )
  ops.push(
    on(
      'f',
      { kind: 'vertices', item: 'rope' },
      'vertex',
      one([
        '[own.x, if(index = 0, {@rig:@amount}, delay({prev:@vertex.y}, 3f))]',
        'mix(delay({self:@vertex}, 1f), own + {@rig:@amount}, 0.2)',
      ]),
    ),
  )
  ops.push(on('g', { kind: 'picked', items: ['t2', 't5'] }, 'opacity', '{@rope:@vertices[mod(frame, 7)].y} + 50'))
  return ops
}

test('compositions made at random have the same bits in the browser and on the command line, in whatever order frames are visited', async ({
  page,
  server,
  studio,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'wunderkammer-'))
  for (const seed of [3, 17, 29, 41, 58, 73]) {
    const id = await projectOf(server, `Seed ${seed}`, generated(seed))
    const file = join(folder, `${seed}.wunderkammer`)
    writeFileSync(file, Buffer.from(await (await fetch(`${server.address}/api/projects/${id}/package`)).arrayBuffer()))
    await studio.open(server.address, id)
    const frames = printed(file, 60)
    for (const frame of [60, 3, 4, 5, 41, 0, 59, 22])
      expect(await difference(page, frame, frames[frame] ?? []), `seed ${seed}, frame ${frame}`).toBe('')
    expect(new Set(frames.map((f) => JSON.stringify(f))).size).toBeGreaterThan(50)
  }
})
