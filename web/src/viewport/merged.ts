import { BufferAttribute, BufferGeometry, DataTexture, DynamicDrawUsage, FloatType, RGBAFormat, type Mesh, type Object3D } from 'three'
import { meshOf, type SurfaceMesh } from './actors'
import { Crowd } from './crowd'
import { abreast, partsMaterial, texels } from './materials'

/** How something is drawn: flat in one colour, as an object that hides what is behind it, or in a way of its own. */
export type Manner = 'flat' | 'solid' | 'own'

/** What one item is drawn with, in order. */
export interface Layer {
  readonly meshes: Mesh[]
  readonly manner: Manner
}

/** The layer of meshes that are drawn as part of a run: the camera does not see it, pointers do. */
const apart = 1

/** From how many meshes one over the other they are drawn as one: each by itself costs a call of the graphics card. */
const few = 4

/** How many numbers a part has: its matrix, row by row, and its colour. */
const stride = 4 * texels

const noTexture = new DataTexture()

/** Draws meshes in as few calls as it can. */
interface Together {
  take(meshes: SurfaceMesh[]): void
  dispose(): void
}

/** Flat meshes of one colour each, one over the other, as a single mesh: what moves or changes colour is a few numbers in a texture. */
class Run implements Together {
  private readonly mesh = meshOf('')
  private geometries: BufferGeometry[] = []
  private parts = new Float32Array()
  private texture = noTexture
  private whole = true // all of the texture is to be sent to the graphics card

  constructor(private readonly scene: Object3D) {
    scene.add(this.mesh)
  }

  /** Takes over meshes as they stand and look now; what did not change is left as it is. */
  take(meshes: SurfaceMesh[]): void {
    this.mesh.renderOrder = meshes[0]?.renderOrder ?? 0
    const same = this.geometries.length === meshes.length && this.geometries.every((g, k) => g === meshes[k]?.geometry)
    if (!same) this.lay(meshes)
    const changed: number[] = []
    for (let k = 0; k < meshes.length; k++) if (this.write(k, meshes[k] as SurfaceMesh)) changed.push(k)
    if (!changed.length) return
    // Piece by piece where it is little, and besides what has not been sent yet.
    this.whole ||= !same || 4 * (changed.length + this.texture.updateRanges.length) > meshes.length
    if (this.whole) this.texture.clearUpdateRanges()
    else for (const k of changed) this.texture.addUpdateRange(stride * k, stride)
    this.texture.needsUpdate = true
  }

  /** Gives each mesh its place in the buffers. */
  private lay(meshes: SurfaceMesh[]): void {
    this.geometries = meshes.map((m) => m.geometry)
    const drawn = this.geometries.map((g) => ({ places: g.getAttribute('position') as BufferAttribute | undefined, index: g.index }))
    let [corners, points] = [0, 0]
    for (const { places, index } of drawn) {
      points += places?.count ?? 0
      corners += index?.count ?? places?.count ?? 0
    }
    const { places, numbers, index } = this.room(points, corners)
    let [at, corner] = [0, 0]
    drawn.forEach(({ places: own, index: ownIndex }, k) => {
      if (!own) return
      places.array.set(own.array, 3 * at)
      numbers.array.fill(k, at, at + own.count)
      const n = ownIndex?.count ?? own.count
      for (let c = 0; c < n; c++) index.array[corner++] = at + (ownIndex ? (ownIndex.array[c] as number) : c)
      at += own.count
    })
    send(places, 3 * points)
    send(numbers, points)
    send(index, corners)
    this.mesh.geometry.setDrawRange(0, corners)
    this.roomForParts(meshes.length)
  }

  private room(points: number, corners: number): { places: BufferAttribute; numbers: BufferAttribute; index: BufferAttribute } {
    const { geometry } = this.mesh
    const [places, numbers, index] = [geometry.getAttribute('position'), geometry.getAttribute('part'), geometry.index] as (
      BufferAttribute | undefined
    )[]
    if (places && numbers && index && places.count >= points && index.count >= corners) return { places, numbers, index }
    const room = Math.ceil(points * 1.5)
    const made = {
      places: new BufferAttribute(new Float32Array(3 * room), 3).setUsage(DynamicDrawUsage),
      numbers: new BufferAttribute(new Float32Array(room), 1).setUsage(DynamicDrawUsage),
      index: new BufferAttribute(new Uint32Array(Math.ceil(corners * 1.5)), 1).setUsage(DynamicDrawUsage),
    }
    geometry.dispose()
    this.mesh.geometry = new BufferGeometry().setAttribute('position', made.places).setAttribute('part', made.numbers).setIndex(made.index)
    return made
  }

  private roomForParts(n: number): void {
    if (this.parts.length >= stride * n) return
    const rows = Math.ceil((n * 1.5) / abreast)
    this.parts = new Float32Array(stride * abreast * rows).fill(NaN)
    this.dropTexture()
    this.texture = new DataTexture(this.parts, texels * abreast, rows, RGBAFormat, FloatType)
    this.texture.onUpdate = () => (this.whole = false)
    this.whole = true
    this.mesh.material = partsMaterial(this.texture)
  }

  /** Writes how a mesh stands and looks, and says whether anything is another. */
  private write(k: number, { matrixWorld, material }: SurfaceMesh): boolean {
    const m = matrixWorld.elements
    const { parts } = this
    let at = stride * k
    let other = false
    const put = (x: number): void => {
      x = Math.fround(x)
      if (parts[at] !== x) {
        parts[at] = x
        other = true
      }
      at++
    }
    for (let row = 0; row < 3; row++) for (let column = 0; column < 4; column++) put(m[row + 4 * column] as number)
    put(material.color.r)
    put(material.color.g)
    put(material.color.b)
    put(material.opacity)
    return other
  }

  private dropTexture(): void {
    if (this.texture === noTexture) return
    this.texture.dispose()
    this.mesh.material.dispose()
  }

  dispose(): void {
    this.scene.remove(this.mesh)
    this.mesh.geometry.dispose()
    this.dropTexture()
  }
}

/** Has the first numbers of an attribute sent to the graphics card. */
function send(attribute: BufferAttribute, n: number): void {
  attribute.clearUpdateRanges()
  attribute.addUpdateRange(0, n)
  attribute.needsUpdate = true
}

/** Runs of one manner: what the next frame does not need is dropped. */
class Runs<T extends Together> {
  private readonly runs: T[] = []
  private used = 0

  constructor(private readonly make: () => T) {}

  begin(): void {
    this.used = 0
  }

  take(meshes: SurfaceMesh[]): void {
    let run = this.runs[this.used++]
    if (!run) this.runs.push((run = this.make()))
    run.take(meshes)
  }

  end(): void {
    for (const run of this.runs.splice(this.used)) run.dispose()
  }
}

/** Draws meshes that lie one over the other in as few calls as can be. */
export class Merged {
  private readonly flat: Runs<Run>
  private readonly solid: Runs<Crowd>

  constructor(scene: Object3D) {
    this.flat = new Runs(() => new Run(scene))
    this.solid = new Runs(() => new Crowd(scene))
  }

  /** Takes over all that is drawn, from the back to the front. */
  update(layers: Layer[]): void {
    this.flat.begin()
    this.solid.begin()
    let manner: Manner = 'own'
    let run: SurfaceMesh[] = []
    const end = (): void => {
      const together = manner !== 'own' && run.length >= few
      for (const mesh of run) mesh.layers.set(together ? apart : 0)
      if (together) (manner === 'flat' ? this.flat : this.solid).take(run)
      run = []
    }
    for (const layer of layers) {
      for (const mesh of layer.meshes) {
        if (!mesh.visible) continue
        if (layer.manner !== manner) end()
        manner = layer.manner
        run.push(mesh as SurfaceMesh)
      }
    }
    end()
    this.flat.end()
    this.solid.end()
  }

  dispose(): void {
    this.update([])
  }
}
