import { BufferAttribute, BufferGeometry, DynamicDrawUsage, type Mesh, type Object3D } from 'three'
import { meshOf } from './actors'
import { surfaceMaterial, type SurfaceMaterial } from './materials'

type Flat = Mesh<BufferGeometry, SurfaceMaterial>

/** What one item is drawn with, in order; plain: all of it flat, of one colour each, with no light on it. */
export interface Layer {
  readonly meshes: Mesh[]
  readonly plain: boolean
}

/** The layer of meshes that are drawn as part of a run: the camera does not see it, pointers do. */
const apart = 1

/** From how many flat meshes one over the other they are drawn as one: each by itself costs a call of the graphics card. */
const few = 4

/** Where a mesh stands in its run, and what it was copied with. */
interface Part {
  mesh: Flat
  geometry: BufferGeometry
  at: number // its first vertex
  count: number
  matrix: Float64Array
  colour: Float64Array
}

const verticesOf = (geometry: BufferGeometry): number => geometry.getAttribute('position')?.count ?? 0

/** Flat meshes of one colour each, one over the other, as a single mesh: their vertices where they stand in the composition. */
class Run {
  readonly mesh = meshOf('')
  private parts: Part[] = []
  private room = 0
  private places = new Float32Array()
  private colours = new Float32Array()

  constructor() {
    this.mesh.material = surfaceMaterial({ lit: false, solid: false, gradient: false, picture: false }, null)
    this.mesh.material.vertexColors = true
  }

  /** Takes over meshes as they stand and look now; what did not change is left as it is. */
  take(meshes: Flat[]): void {
    this.mesh.renderOrder = meshes[0]?.renderOrder ?? 0
    const same = this.parts.length === meshes.length && this.parts.every((p, k) => p.mesh === meshes[k] && p.geometry === p.mesh.geometry)
    if (!same) this.lay(meshes)
    const moved: Part[] = []
    const painted: Part[] = []
    for (const p of this.parts) {
      if (differs(p.matrix, p.mesh.matrixWorld.elements)) moved.push(p)
      const { color, opacity } = p.mesh.material
      if (differs(p.colour, [color.r, color.g, color.b, opacity])) painted.push(p)
    }
    for (const p of moved) this.place(p)
    for (const p of painted) this.paint(p)
    if (!same) return
    this.send('position', 3, moved)
    this.send('color', 4, painted)
  }

  /** Gives each mesh its place in the buffers. */
  private lay(meshes: Flat[]): void {
    let at = 0
    this.parts = meshes.map((mesh) => {
      const count = verticesOf(mesh.geometry)
      const part = {
        mesh,
        geometry: mesh.geometry,
        at,
        count,
        matrix: new Float64Array(16).fill(NaN),
        colour: new Float64Array(4).fill(NaN),
      }
      at += count
      return part
    })
    if (at > this.room) {
      this.room = Math.ceil(at * 1.5)
      this.places = new Float32Array(3 * this.room)
      this.colours = new Float32Array(4 * this.room)
      const geometry = new BufferGeometry()
      geometry.setAttribute('position', new BufferAttribute(this.places, 3).setUsage(DynamicDrawUsage))
      geometry.setAttribute('color', new BufferAttribute(this.colours, 4).setUsage(DynamicDrawUsage))
      this.mesh.geometry.dispose()
      this.mesh.geometry = geometry
    }
    this.mesh.geometry.setDrawRange(0, at)
    for (const name of ['position', 'color']) {
      const attribute = this.mesh.geometry.getAttribute(name) as BufferAttribute | undefined
      attribute?.clearUpdateRanges()
      if (attribute) attribute.needsUpdate = true
    }
  }

  private place(p: Part): void {
    const m = p.matrix
    const from = p.geometry.getAttribute('position')?.array
    const to = this.places
    if (!from) return
    for (let k = 0, n = 3 * p.at; k < 3 * p.count; k += 3, n += 3) {
      const [x, y, z] = [from[k] as number, from[k + 1] as number, from[k + 2] as number]
      to[n] = (m[0] as number) * x + (m[4] as number) * y + (m[8] as number) * z + (m[12] as number)
      to[n + 1] = (m[1] as number) * x + (m[5] as number) * y + (m[9] as number) * z + (m[13] as number)
      to[n + 2] = (m[2] as number) * x + (m[6] as number) * y + (m[10] as number) * z + (m[14] as number)
    }
  }

  private paint(p: Part): void {
    for (let n = p.at; n < p.at + p.count; n++) this.colours.set(p.colour, 4 * n)
  }

  /** Has what changed sent to the graphics card: piece by piece where it is little. */
  private send(name: string, size: number, parts: Part[]): void {
    if (!parts.length) return
    const attribute = this.mesh.geometry.getAttribute(name) as BufferAttribute
    attribute.clearUpdateRanges()
    if (parts.length * 4 < this.parts.length) for (const p of parts) attribute.addUpdateRange(size * p.at, size * p.count)
    else attribute.addUpdateRange(0, size * this.mesh.geometry.drawRange.count)
    attribute.needsUpdate = true
  }

  dispose(): void {
    this.mesh.geometry.dispose()
    this.mesh.material.dispose()
  }
}

/** Copies what is another into was, and says whether there is anything. */
function differs(was: Float64Array, is: ArrayLike<number>): boolean {
  let other = false
  for (let k = 0; k < was.length; k++) {
    if (was[k] === is[k]) continue
    was[k] = is[k] as number
    other = true
  }
  return other
}

/** Draws flat meshes that lie one over the other in as few calls as can be. */
export class Merged {
  private readonly runs: Run[] = []

  constructor(private readonly scene: Object3D) {}

  /** Takes over all that is drawn, from the back to the front. */
  update(layers: Layer[]): void {
    let n = 0
    let run: Flat[] = []
    const end = (): void => {
      const together = run.length >= few
      for (const mesh of run) mesh.layers.set(together ? apart : 0)
      if (together) this.run(n++).take(run)
      run = []
    }
    for (const { meshes, plain } of layers) {
      for (const mesh of meshes) {
        if (!mesh.visible) continue
        if (plain) run.push(mesh as Flat)
        else {
          end()
          mesh.layers.set(0)
        }
      }
    }
    end()
    for (; this.runs.length > n;) {
      const gone = this.runs.pop()
      if (gone) this.scene.remove(gone.mesh)
      gone?.dispose()
    }
  }

  private run(n: number): Run {
    let run = this.runs[n]
    if (!run) {
      run = new Run()
      this.runs.push(run)
      this.scene.add(run.mesh)
    }
    return run
  }

  dispose(): void {
    for (const run of this.runs) run.dispose()
  }
}
