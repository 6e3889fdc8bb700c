import { Color, InstancedMesh, MeshStandardMaterial, Vector3, type Matrix4, type Object3D } from 'three'
import { nothing, still, type SurfaceMesh } from './actors'
import { surfaceMaterial, type Sort, type SurfaceMaterial } from './materials'

/** From how many objects of one form and look they are drawn in one go. */
const few = 3

const sortOf = ({ material }: SurfaceMesh): Sort => ({
  lit: material instanceof MeshStandardMaterial,
  solid: true,
  gradient: false,
  picture: material.map !== null,
})

/** What objects drawn in one go have in common; empty: it stands in a way that only a call of its own can draw. */
function lookOf({ geometry, material, matrixWorld }: SurfaceMesh): string {
  if (!upright(matrixWorld)) return ''
  const rough = material instanceof MeshStandardMaterial ? material.roughness : 'unlit'
  return [geometry.id, rough, material.opacity, material.map?.id ?? 0].join()
}

const [x, y, z] = [new Vector3(), new Vector3(), new Vector3()]

/** Whether light falls on something the same way after its turn and its scale alone: it is neither skewed nor mirrored. */
function upright(matrix: Matrix4): boolean {
  ;[x, y, z].forEach((axis, k) => axis.setFromMatrixColumn(matrix, k))
  const slight = 1e-5 * (x.lengthSq() + y.lengthSq() + z.lengthSq())
  const square = Math.abs(x.dot(y)) <= slight && Math.abs(y.dot(z)) <= slight && Math.abs(z.dot(x)) <= slight
  return square && x.cross(y).dot(z) > 0
}

/** Objects of one form and look, drawn in one go. */
class Group {
  readonly mesh: InstancedMesh
  private readonly material: SurfaceMaterial

  constructor(
    readonly sort: Sort,
    private readonly room: number,
  ) {
    this.material = surfaceMaterial(sort, null)
    this.mesh = still(new InstancedMesh(nothing, this.material, room))
    this.mesh.setColorAt(0, new Color(1, 1, 1)) // so that there are colours to set
  }

  /** Whether it can draw as many of that sort. */
  holds(sort: Sort, n: number): boolean {
    return this.room >= n && this.sort.lit === sort.lit && this.sort.picture === sort.picture
  }

  take(meshes: SurfaceMesh[]): void {
    const [model] = meshes
    if (!model) return
    this.mesh.count = meshes.length
    this.mesh.renderOrder = model.renderOrder
    this.mesh.geometry = model.geometry
    dress(this.material, model.material)
    meshes.forEach((mesh, k) => {
      this.mesh.setMatrixAt(k, mesh.matrixWorld)
      this.mesh.setColorAt(k, mesh.material.color)
    })
    this.mesh.instanceMatrix.needsUpdate = true
    if (this.mesh.instanceColor) this.mesh.instanceColor.needsUpdate = true
  }

  dispose(): void {
    this.mesh.dispose()
    this.material.dispose()
  }
}

/** Brings a material to what objects drawn in one go have in common. */
function dress(to: SurfaceMaterial, from: SurfaceMaterial): void {
  to.map = from.map
  to.opacity = from.opacity
  if (to instanceof MeshStandardMaterial && from instanceof MeshStandardMaterial) to.roughness = from.roughness
}

/** Objects one after the other in the tree: those of one form and look, which copies are, are drawn in one go. */
export class Crowd {
  private groups: Group[] = []

  constructor(private readonly scene: Object3D) {}

  take(meshes: SurfaceMesh[]): void {
    const spare = this.groups
    this.groups = []
    for (const alike of this.alike(meshes)) {
      const [model] = alike
      if (!model || alike.length < few) {
        for (const mesh of alike) mesh.layers.set(0)
        continue
      }
      const group = this.group(spare, sortOf(model), alike.length)
      group.take(alike)
      this.groups.push(group)
    }
    for (const group of spare) this.drop(group)
  }

  /** A group that stands there, or a new one with some room to grow. */
  private group(spare: Group[], sort: Sort, n: number): Group {
    const at = spare.findIndex((g) => g.holds(sort, n))
    if (at >= 0) return spare.splice(at, 1)[0] as Group
    const group = new Group(sort, Math.ceil(n * 1.5))
    this.scene.add(group.mesh)
    return group
  }

  /** Those alike. Where one is seen through another, the order counts, and only those that follow one another go together. */
  private alike(meshes: SurfaceMesh[]): SurfaceMesh[][] {
    const covering = meshes.every(({ material }) => material.opacity === 1 && !material.map)
    const groups: SurfaceMesh[][] = []
    const byLook = new Map<string, SurfaceMesh[]>()
    let before = ''
    for (const mesh of meshes) {
      const look = lookOf(mesh)
      if (!covering && look !== before) byLook.clear()
      before = look
      let group = look ? byLook.get(look) : undefined
      if (!group) {
        groups.push((group = []))
        byLook.set(look, group)
      }
      group.push(mesh)
    }
    return groups
  }

  private drop(group: Group): void {
    this.scene.remove(group.mesh)
    group.dispose()
  }

  dispose(): void {
    for (const group of this.groups) this.drop(group)
  }
}
