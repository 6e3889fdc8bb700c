import { OrthographicCamera, PerspectiveCamera, Vector3, type Camera } from 'three'
import type { Point3 } from '@/core/types'

/** The flat view: where the middle of the composition is on the canvas, in CSS pixels, and the zoom. */
export interface Sight {
  x: number
  y: number
  zoom: number
}

/** The free view: what is looked at, from how far and from which side, in degrees. */
export interface Orbit {
  at: Point3
  distance: number
  turn: number
  lift: number
}

/** A camera of the composition: its place, where it looks to, and its lens in degrees from top to bottom. */
export interface Lens {
  from: Vector3
  to: Vector3
  angle: number
  roll: number
}

/** The view in which a composition is as large as there is room for it on a canvas, in its middle. */
export function fitted(width: number, height: number, of?: { width: number; height: number } | null): Sight {
  return { x: width / 2, y: height / 2, zoom: Math.min(width / (of?.width ?? 1), height / (of?.height ?? 1)) || 1 }
}

/** How far the free view's lens opens, in degrees. */
const freeAngle = 40

/** Through what the composition is seen, and the way between its space and the canvas. */
export class Sights {
  private readonly flat = new OrthographicCamera()
  private readonly through = new PerspectiveCamera()
  camera: Camera = this.flat
  width = 1
  height = 1
  private readonly v = new Vector3()

  constructor() {
    this.flat.near = -100000
    this.flat.far = 100000
  }

  /** Straight from the front. */
  seeFlat({ x, y, zoom }: Sight): void {
    this.flat.left = -x / zoom
    this.flat.right = (this.width - x) / zoom
    this.flat.top = y / zoom
    this.flat.bottom = (y - this.height) / zoom
    this.flat.updateProjectionMatrix()
    this.camera = this.flat
  }

  /** Through a camera of the composition, whose picture fills the composition's frame. */
  seeThrough(lens: Lens, { x, y, zoom }: Sight, frame: { width: number; height: number }): void {
    const w = frame.width * zoom
    const h = frame.height * zoom
    const c = this.through
    c.fov = lens.angle
    c.aspect = w / h
    c.position.copy(lens.from)
    c.up.set(Math.sin((-lens.roll * Math.PI) / 180), Math.cos((lens.roll * Math.PI) / 180), 0)
    c.lookAt(lens.to)
    this.reach(lens.from.distanceTo(lens.to))
    c.setViewOffset(w, h, w / 2 - x, h / 2 - y, this.width, this.height)
    c.updateMatrixWorld()
    this.camera = c
  }

  /** From anywhere, without touching the composition's camera. */
  seeFree(orbit: Orbit): void {
    const c = this.through
    const turn = (orbit.turn * Math.PI) / 180
    const lift = (orbit.lift * Math.PI) / 180
    c.clearViewOffset()
    c.fov = freeAngle
    c.aspect = this.width / this.height
    c.up.set(0, 1, 0)
    c.position.set(
      orbit.at[0] + orbit.distance * Math.sin(turn) * Math.cos(lift),
      orbit.at[1] + orbit.distance * Math.sin(lift),
      orbit.at[2] + orbit.distance * Math.cos(turn) * Math.cos(lift),
    )
    c.lookAt(...orbit.at)
    this.reach(orbit.distance)
    c.updateProjectionMatrix()
    c.updateMatrixWorld()
    this.camera = c
  }

  private reach(distance: number): void {
    this.through.near = Math.max(1, distance / 200)
    this.through.far = Math.max(20000, distance * 20)
  }

  /** Where a place of the composition lies on the canvas; null behind the viewer. */
  project(at: readonly number[]): [x: number, y: number] | null {
    this.v.set(at[0] ?? 0, at[1] ?? 0, at[2] ?? 0).applyMatrix4(this.camera.matrixWorldInverse)
    if (this.camera === this.through && this.v.z > -this.through.near) return null
    this.v.applyMatrix4(this.camera.projectionMatrix)
    return [((this.v.x + 1) / 2) * this.width, ((1 - this.v.y) / 2) * this.height]
  }

  /** How far a way on the canvas leads in the composition, in the plane that a place has in view. */
  way(dx: number, dy: number, at: readonly number[]): Point3 {
    const c = this.camera
    this.v
      .set(at[0] ?? 0, at[1] ?? 0, at[2] ?? 0)
      .applyMatrix4(c.matrixWorldInverse)
      .applyMatrix4(c.projectionMatrix)
    const to = new Vector3(this.v.x + (2 * dx) / this.width, this.v.y - (2 * dy) / this.height, this.v.z)
    const from = this.v.clone().applyMatrix4(c.projectionMatrixInverse).applyMatrix4(c.matrixWorld)
    to.applyMatrix4(c.projectionMatrixInverse).applyMatrix4(c.matrixWorld).sub(from)
    const clean = (x: number): number => Math.round(x * 1e4) / 1e4
    return [clean(to.x), clean(to.y), clean(to.z)]
  }
}
