import type { Object3D } from 'three'
import { Drawn, Reader, type Actor, type Veil } from './actors'
import type { Textures } from './textures'

/** One item as a copy shows it, taken out of the packed copies of a frame. */
interface Copied {
  index: number
  veil: Veil
  form: number
  world: Float32Array
  looks: Float32Array // slot, value, slot, value …
}

/** Takes the packed copies of a frame apart; their layout is described in the bridge of the core. */
export function* copiesOf(packed: Float32Array): Generator<{ index: number; copied: Copied[] }> {
  let at = 0
  const next = (): number => packed[at++] as number
  while (at < packed.length) {
    const index = next()
    const copied: Copied[] = []
    for (let n = next(); n > 0; n--) {
      copied.push({
        index: next(),
        veil: { opacity: next(), tinted: next(), tint: [next(), next(), next()] },
        form: next(),
        world: packed.subarray(at, (at += 12)),
        looks: packed.subarray(at + 1, (at += 1 + 2 * (packed[at] as number))),
      })
    }
    yield { index, copied }
  }
}

/** What the copies of one item show, each item in each copy drawn by itself; flat ones are merged like all others. */
export class Copies {
  private shown: Copied[] = []
  private readonly pools = new Map<string, Drawn[]>() // by what they draw
  /** What was drawn last, from the back to the front. */
  layers: Drawn[] = []

  constructor(
    private readonly id: string,
    private readonly scene: Object3D,
  ) {}

  take(copied: Copied[]): void {
    this.shown = copied
  }

  /** Brings all copies to a frame. Meanwhile the values are those that each copy shows. */
  perform(values: Float64Array, actors: Actor[], originals: ReadonlyMap<string, Drawn>, order: number, textures: Textures): void {
    const used = new Map<string, number>()
    this.layers = []
    this.shown.forEach(({ index, veil, form, world, looks }, n) => {
      const actor = actors[index]
      const original = actor && originals.get(actor.id)
      if (!actor || !original) return
      const at = used.get(actor.id) ?? 0
      used.set(actor.id, at + 1)
      const drawn = this.from(actor, at)
      const place = values.slice(actor.world, actor.world + 12)
      values.set(world, actor.world)
      const was = new Float64Array(looks.length / 2)
      for (let k = 0; k < looks.length; k += 2) {
        const slot = looks[k] as number
        was[k / 2] = values[slot] as number
        values[slot] = looks[k + 1] as number
      }
      const step = 1 / (this.shown.length + 1)
      drawn.update(new Reader(values, actor, veil), order + step * n, textures, original.formOf(form), step)
      values.set(place, actor.world)
      for (let k = 0; k < looks.length; k += 2) values[looks[k] as number] = was[k / 2] as number
      this.layers.push(drawn)
    })
    for (const [id, pool] of this.pools) for (const spare of pool.splice(used.get(id) ?? 0)) this.drop(spare)
  }

  /** The forms that items are shown in, by their index. */
  formsOf(): Map<number, Set<number>> {
    const forms = new Map<number, Set<number>>()
    for (const { index, form } of this.shown) {
      if (form) forms.set(index, (forms.get(index) ?? new Set()).add(form))
    }
    return forms
  }

  private from(actor: Actor, at: number): Drawn {
    let pool = this.pools.get(actor.id)
    if (!pool) this.pools.set(actor.id, (pool = []))
    let drawn = pool[at]
    if (!drawn) {
      drawn = new Drawn(this.id, actor.class) // a click on a copy takes what shows it
      pool.push(drawn)
      this.scene.add(...drawn.meshes)
    }
    return drawn
  }

  private drop(drawn: Drawn): void {
    this.scene.remove(...drawn.meshes)
    drawn.dispose()
  }

  dispose(): void {
    for (const pool of this.pools.values()) for (const drawn of pool) this.drop(drawn)
    this.pools.clear()
  }
}
