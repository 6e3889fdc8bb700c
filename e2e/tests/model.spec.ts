import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  AnimationClip,
  AnimationMixer,
  Euler,
  Group,
  Mesh,
  MeshStandardMaterial,
  Quaternion,
  QuaternionKeyframeTrack,
  TorusKnotGeometry,
  Vector3,
  VectorKeyframeTrack,
  type Object3D,
} from 'three'
import { GLTFExporter } from 'three/examples/jsm/exporters/GLTFExporter.js'
import { sides } from '../helpers/pictures'
import { staged } from '../helpers/pixels'
import { run } from '../helpers/server'
import { expect, test } from '../helpers/test'

let folder = ''
test.beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'models-'))))
test.afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** What the exporter reads its bytes with, and Node has not. */
class Reader {
  result: ArrayBuffer | null = null
  onloadend: (() => void) | null = null
  readAsArrayBuffer(blob: Blob): void {
    void blob.arrayBuffer().then((b) => {
      this.result = b
      this.onloadend?.()
    })
  }
}
Object.assign(globalThis, { FileReader: Reader })

/** A model as another program writes it. */
async function glb(name: string, of: Object3D, moves: AnimationClip[] = []): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const made = await new GLTFExporter().parseAsync(of, { binary: true, animations: moves })
  return { name, mimeType: 'model/gltf-binary', buffer: Buffer.from(made as ArrayBuffer) }
}

test('a model of another program stands where it stood there, and a hand moves a vertex of it', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Knots')
  const knot = new TorusKnotGeometry(0.7, 0.21, 48, 7)
  const bollard = new Group()
  bollard.name = 'Bollard'
  bollard.position.set(0.9, -0.35, 0.2)
  bollard.rotation.set(0.3, -0.7, 0.15)
  const rope = new Mesh(knot, new MeshStandardMaterial({ color: 0x3377aa, roughness: 0.4, metalness: 0 }))
  rope.name = 'Rope'
  rope.position.set(-0.25, 1.1, 0.4)
  rope.scale.set(1.3, 0.8, 1)
  bollard.add(rope)
  const turn = (x: number, y: number, z: number): number[] => new Quaternion().setFromEuler(new Euler(x, y, z)).toArray()
  const sways = new AnimationClip('Sway', 1.6, [
    new QuaternionKeyframeTrack(
      'Bollard.quaternion',
      [0, 0.7, 1.6],
      [...turn(0.3, -0.7, 0.15), ...turn(-1.1, 0.4, 0.9), ...turn(0.3, 2.2, -0.4)],
    ),
    new VectorKeyframeTrack('Rope.position', [0.2, 1.3], [-0.25, 1.1, 0.4, 0.35, 0.6, -0.2]),
  ])
  await studio.bring(await glb('Bollard.glb', bollard, [sways]))
  await expect(page.getByRole('treeitem')).toHaveCount(3)
  await expect(studio.row('Rope')).toBeVisible()
  bollard.updateMatrixWorld(true)
  const corner = (k: number): number[] =>
    rope
      .localToWorld(new Vector3().fromBufferAttribute(knot.getAttribute('position'), k))
      .toArray()
      .map((x) => 100 * x)
  await studio.saved()
  const read = async (what: string, frame = 0): Promise<number[]> => {
    const answer = await fetch(`${server.address}/api/projects/${page.url().split('/').pop()}/package`)
    const file = join(folder, 'knots.wunderkammer')
    writeFileSync(file, Buffer.from(await answer.arrayBuffer()))
    return JSON.parse(run('eval', file, '--frame', String(frame), what)) as number[]
  }
  // Vertices are numbered as the faces of the file name them: the first triangle has the corners 0, 8 and 1 of the other program.
  for (const [number, theirs] of [
    [1, 0],
    [2, 8],
    [3, 1],
  ] as const) {
    const ours = await read(`Rope: world.vertices[${number}]`)
    for (const [axis, x] of corner(theirs).entries()) expect(ours[axis], `vertex ${number}`).toBeCloseTo(x, 2)
  }
  // What moved there moves here, at every moment.
  const mixer = new AnimationMixer(bollard)
  mixer.clipAction(sways).play()
  for (const frame of [6, 17, 29, 38]) {
    mixer.setTime(frame / 25)
    bollard.updateMatrixWorld(true)
    const ours = await read('Rope: world.vertices[2]', frame)
    for (const [axis, x] of corner(8).entries()) expect(Math.abs(ours[axis]! - x), `at frame ${frame}`).toBeLessThan(0.3)
  }
  mixer.setTime(0)
  // A hand moves one of them.
  await studio.select('Rope')
  await page.getByRole('toolbar', { name: 'Viewport' }).getByRole('button', { name: 'Vertices' }).click()
  const marks = page.locator('.vertex rect')
  await expect(marks.first()).toBeVisible()
  // The uppermost, of two at one place the one that a hand meets.
  const top = await marks.evaluateAll((all) => {
    const boxes = all.map((e) => e.getBoundingClientRect()).sort((a, b) => a.y - b.y)
    const { x, y, width, height } = boxes[0]!
    const at = { x: x + width / 2, y: y + height / 2 }
    return { ...at, number: Number(document.elementFromPoint(at.x, at.y)!.closest<SVGElement>('.vertex')!.dataset.vertex) }
  })
  const before = await read(`Rope: world.vertices[${top.number}]`)
  await page.mouse.move(top.x, top.y)
  await page.mouse.down()
  await page.mouse.move(top.x + 20, top.y - 33, { steps: 5 })
  await page.mouse.up()
  await expect.poll(() => read(`Rope: world.vertices[${top.number}]`)).not.toEqual(before)
  const after = await read(`Rope: world.vertices[${top.number}]`)
  const way = after.map((x, axis) => x - before[axis]!)
  expect(way[0]! / way[1]!).toBeCloseTo(20 / 33, 1)
  expect(Math.hypot(...way)).toBeGreaterThan(38) // pixels of the composition are smaller than those of the screen
})

test('a glTF in parts: what is missing is named, and its picture is repeated across the mesh as its file says', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Wall')
  const numbers = Buffer.alloc(4 * 12 + 4 * 8 + 2 * 6)
  ;[-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0].forEach((x, k) => numbers.writeFloatLE(x, 4 * k))
  ;[0, 3, 2, 3, 2, 0, 0, 0].forEach((x, k) => numbers.writeFloatLE(x, 48 + 4 * k)) // two by three pictures
  ;[0, 1, 2, 0, 2, 3].forEach((x, k) => numbers.writeUInt16LE(x, 80 + 2 * k))
  const says = {
    asset: { version: '2.0' },
    nodes: [{ name: 'Wall', mesh: 0 }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0, TEXCOORD_0: 1 }, indices: 2, material: 0 }] }],
    materials: [{ extensions: { KHR_materials_unlit: {} }, pbrMetallicRoughness: { baseColorTexture: { index: 0 }, metallicFactor: 0.6 } }],
    textures: [{ source: 0 }],
    images: [{ uri: 'tiles%20of%20clay.png' }],
    accessors: [
      { bufferView: 0, componentType: 5126, type: 'VEC3', count: 4 },
      { bufferView: 1, componentType: 5126, type: 'VEC2', count: 4 },
      { bufferView: 2, componentType: 5123, type: 'SCALAR', count: 6 },
    ],
    bufferViews: [
      { buffer: 0, byteLength: 48 },
      { buffer: 0, byteOffset: 48, byteLength: 32 },
      { buffer: 0, byteOffset: 80, byteLength: 12 },
    ],
    buffers: [{ byteLength: 92, uri: 'wall.bin' }],
  }
  const wall = { name: 'Wall.gltf', mimeType: 'model/gltf+json', buffer: Buffer.from(JSON.stringify(says)) }
  await studio.bring(wall)
  await expect(page.getByText('Can’t import Wall.gltf: it needs wall.bin beside it. Choose or drop both together')).toBeVisible()
  await expect(page.getByRole('treeitem')).toHaveCount(0)
  // Left of its middle the tile is red, right of it blue.
  const tile = sides([200, 30, 40], [20, 50, 190])
  await studio.bring([
    { name: 'tiles of clay.png', mimeType: 'image/png', buffer: tile },
    wall,
    { name: 'wall.bin', mimeType: 'application/octet-stream', buffer: numbers },
  ])
  await expect(page.getByText('Wall was imported. Not supported:')).toBeVisible()
  await expect(page.getByText('metal; it is shown without its gloss')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('treeitem')).toHaveCount(2) // the picture is on the mesh, and no item by itself
  const at = async (share: number): Promise<number[]> => {
    const shot = await staged(page, 400, 300)
    return page.evaluate(
      async ([source, x]) => {
        const image = new Image()
        image.src = 'data:image/png;base64,' + (source as string)
        await image.decode()
        const canvas = new OffscreenCanvas(image.width, image.height)
        const context = canvas.getContext('2d')!
        context.drawImage(image, 0, 0)
        return [...context.getImageData(x as number, 150, 1, 1).data.slice(0, 3)]
      },
      [shot.toString('base64'), Math.round(200 - 100 + 200 * share)] as const,
    )
  }
  await page.keyboard.press('Escape')
  const seen: string[] = []
  for (const share of [0.12, 0.37, 0.63, 0.88]) {
    const [r, , b] = await at(share)
    seen.push(r! > b! ? 'red' : 'blue')
  }
  expect(seen).toEqual(['red', 'blue', 'red', 'blue'])
})

test('JSON that is neither a model nor an animation nor rows is told so, whatever it holds', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Odd')
  const odd = { assets: 7, images: [null, { uri: '50%.png' }, { uri: 3 }], buffers: { a: 1 } }
  await studio.bring({ name: 'odd.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(odd)) })
  await expect(page.getByText('Can’t import odd.json:')).toBeVisible()
  await expect(page.getByRole('treeitem')).toHaveCount(0)
})
