import { createRequire } from 'node:module'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { AnimationMixer, Vector3 } from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'
import { run } from '../helpers/server'
import { expect, test } from '../helpers/test'

interface Report {
  issues: { numErrors: number; numWarnings: number; messages: object[] }
}
const validator = createRequire(import.meta.url)('gltf-validator') as { validateBytes: (data: Uint8Array) => Promise<Report> }

let folder = ''
test.beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'space-'))))
test.afterAll(() => rmSync(folder, { recursive: true, force: true }))

test('glTF is valid, and another loader reads where everything stands', async () => {
  for (const [name, watched] of [
    ['Ferry deck', ['Crate', 'Jib', 'Hook ring']],
    ['Quay shadows', ['Crate 2', 'Bollard 3']],
    ['Winch', ['Hook ring']],
    ['Harbour opener', ['Crate 1']],
    ['Net floats', ['Left float cork']],
    ['Buoy', []],
  ] as const) {
    const file = join(folder, 'out.glb')
    run('export', `demo#${name}`, '--as', 'gltf', '-o', file)
    const data = readFileSync(file)
    const { issues } = await validator.validateBytes(new Uint8Array(data))
    expect([issues.numErrors, issues.numWarnings], `${name}: ${JSON.stringify(issues.messages.slice(0, 3))}`).toEqual([0, 0])
    if (!watched.length) continue
    const { scene, animations } = await new GLTFLoader().parseAsync(data.buffer.slice(data.byteOffset, data.byteOffset + data.length), '')
    const mixer = new AnimationMixer(scene)
    for (const clip of animations) mixer.clipAction(clip).play()
    for (const frame of [0, 83, 217]) {
      mixer.setTime(frame / 25)
      scene.updateMatrixWorld(true)
      for (const item of watched) {
        const [want = ''] = run('eval', `demo#${name}`, '--frame', String(frame), `${item}: world.position`).split('\n')
        const place = JSON.parse(want.replace(/^[^[]*/, '')) as [number, number, number]
        const pivot = new Vector3()
        let found = 0
        scene.traverse((node) => {
          if (node.name.replaceAll('_', ' ') !== item) return
          node.getWorldPosition(pivot)
          found++
        })
        expect(found, `${name}: ${item}`).toBe(1)
        const away = pivot.distanceTo(new Vector3(...place).multiplyScalar(0.01))
        expect(away, `${name}, ${item} at frame ${frame}: ${pivot.toArray().join()}, want ${place.join()} px`).toBeLessThan(0.003)
      }
    }
  }
})
