import { add, projectOf } from '../helpers/api'
import { costs, evaluation, summary, watchScript, watchWorker, workerAlone } from '../helpers/costs'
import { test } from '../helpers/test'

/** What rigs cost in the browser. */

test('1,000 copies of three shapes, each later by its index', async ({ page, server, studio }) => {
  const number = 1000
  const ops = [
    add({
      id: 'beads',
      name: 'Beads',
      kind: 'copies',
      copies: { limit: number },
      states: {
        copiesNumber: { own: number },
        copiesArrangement: { own: 2 },
        copiesColumns: { own: 40 },
        copiesSpacing: { own: [30, 0, 0] },
        rowSpacing: { own: [0, -26, 0] },
        position: { own: [-590, 330, 0] },
      },
    }),
    ...[0, 1, 2].map((k) =>
      add({
        id: `shape${k}`,
        name: `Shape ${k}`,
        kind: 'ellipse',
        parent: 'beads',
        states: {
          size: { own: [16 - 4 * k, 8] },
          rotation: { links: [{ id: `l${k}`, kind: 'formula', gain: 1, formula: `wave(time * 0.3 + ${k} / 3) * 40` }] },
          position: {
            pins: [
              { frame: 0, value: [0, 0, 0], easing: 'smooth' },
              { frame: 299, value: [8 * k, 4, 0], easing: 'smooth' },
            ],
          },
        },
      }),
    ),
    {
      op: 'spread.add',
      at: -1,
      value: {
        id: 'row',
        name: 'late',
        roster: { kind: 'copies', item: 'beads' },
        property: 'copyLate',
        link: { id: 'rowl', kind: 'formula', gain: 1, formula: 'index * 1f' },
      },
    },
  ]
  const id = await projectOf(server, 'Copies', ops)
  await watchWorker(page)
  await studio.open(server.address, id)
  const script = await watchScript(page)
  const rounds = 100
  const times = await evaluation(page, rounds)
  console.log(
    `\n1,000 late copies of three shapes: the next frame, from when the worker is asked until its values are on the page: ${summary(times)}; ${((await script()) / rounds).toFixed(1)} ms of the page's script a frame`,
  )
  console.log(`the same in the worker alone, packed for the page: ${await workerAlone(page)}`)
})

test('a fader of poses over 500 properties', async ({ page, server, studio }) => {
  const poses = [
    { id: 'p1', name: 'Low', at: 0, easing: 'smooth' },
    { id: 'p2', name: 'High', at: 100, easing: 'smooth' },
  ]
  const ops = [
    add({ id: 'rig', name: 'Rig', kind: 'null', controls: [{ id: 'mood', name: 'Mood', kind: 'fader', softMax: 100, default: 0, poses }] }),
    ...Array.from({ length: 500 }, (_, k) =>
      add({
        id: `i${k}`,
        name: `Item ${k}`,
        kind: 'rectangle',
        hidden: k >= 200,
        states: {
          size: { own: [8, 8] },
          position: { own: [(k % 40) * 30 - 585, Math.floor(k / 40) * 20 - 130, 0] },
          opacity: {
            links: [
              {
                id: `l${k}`,
                kind: 'pose',
                gain: 1,
                source: { item: 'rig', property: 'mood' },
                held: [
                  { stop: 'p1', value: k % 80 },
                  { stop: 'p2', value: 100 },
                ],
              },
            ],
          },
        },
      }),
    ),
  ]
  const id = await projectOf(server, 'Poses', ops)
  await watchWorker(page)
  await studio.open(server.address, id)
  console.log(`\na fader of poses over 500 properties, 200 of them drawn: ${await costs(page, 'Mood', 60)}`)
})
