import { AmbientLight, DirectionalLight, PointLight, SpotLight, SRGBColorSpace, Vector3, type Light, type Scene } from 'three'
import type { Reader } from './actors'

/** How lights of each kind are made. A light of 100 % shows a surface that faces it in its own colour. */
const makers: { [kind: string]: () => Light } = {
  pointLight: () => new PointLight('#fff', 1, 0, 0),
  spotLight: () => new SpotLight('#fff', 1, 0, 0.5, 0, 0),
  directionalLight: () => new DirectionalLight(),
  ambientLight: () => new AmbientLight(),
}

/** Where an item with a target looks to: its own place, turned as it is turned itself. */
export function aim(r: Reader, from: Vector3, to: Vector3): void {
  const w = r.actor.world
  const v = (i: number): number => r.values[w + i] as number
  const d = [0, 1, 2].map((k) => r.n('target', k) - r.n('position', k)) as [number, number, number]
  if (Math.hypot(...d) < 1e-6) d[2] = -1
  const pivot = [0, 1, 2].map((k) => r.n('pivot', k)) as [number, number, number]
  const at = (p: readonly number[], k: number): number =>
    v(4 * k) * (p[0] as number) + v(4 * k + 1) * (p[1] as number) + v(4 * k + 2) * (p[2] as number) + v(4 * k + 3)
  from.set(at(pivot, 0), at(pivot, 1), at(pivot, 2))
  const ahead = d.map((x, k) => x + (pivot[k] as number))
  to.set(at(ahead, 0), at(ahead, 1), at(ahead, 2))
}

/** The lights of a composition. Where it has none, a plain pair stands in, so that nothing is black. */
export class Lights {
  private readonly lights = new Map<string, Light>()
  private readonly standIn = [new AmbientLight('#fff', 0.45 * Math.PI), new DirectionalLight('#fff', 0.65 * Math.PI)] as const
  private readonly from = new Vector3()
  private readonly to = new Vector3()

  constructor(private readonly scene: Scene) {
    this.standIn[1].position.set(-0.5, 0.8, 1)
    scene.add(...this.standIn)
    for (const light of this.standIn) light.updateMatrixWorld()
  }

  /** Keeps the lights that are there, makes new ones and drops the rest. */
  cast(all: { id: string; kind: string }[]): void {
    const present = new Set(all.map((a) => a.id))
    for (const [id, light] of this.lights) {
      if (present.has(id)) continue
      this.scene.remove(light)
      if (light instanceof SpotLight || light instanceof DirectionalLight) this.scene.remove(light.target)
      light.dispose()
      this.lights.delete(id)
    }
    for (const { id, kind } of all) {
      const make = makers[kind]
      if (!make || this.lights.has(id)) continue
      const light = make()
      this.lights.set(id, light)
      this.scene.add(light)
      if (light instanceof SpotLight || light instanceof DirectionalLight) this.scene.add(light.target)
    }
    for (const light of this.standIn) light.visible = this.lights.size === 0
  }

  update(id: string, r: Reader): void {
    const light = this.lights.get(id)
    if (!light) return
    light.visible = !r.actor.hidden
    light.color.setRGB(r.n('colour'), r.n('colour', 1), r.n('colour', 2), SRGBColorSpace)
    light.intensity = (r.n('intensity') / 100) * Math.PI * r.n('colour', 3)
    if (light instanceof AmbientLight) return
    aim(r, this.from, this.to)
    light.position.copy(this.from)
    if (light instanceof PointLight || light instanceof SpotLight) light.distance = r.n('range')
    if (light instanceof SpotLight) {
      light.angle = (Math.min(179, Math.max(0.1, r.n('coneAngle'))) * Math.PI) / 360
      light.penumbra = r.n('coneSoftness') / 100
    }
    light.updateMatrixWorld()
    if (light instanceof SpotLight || light instanceof DirectionalLight) {
      light.target.position.copy(this.to)
      light.target.updateMatrixWorld()
    }
  }
}
