import type { Object3D } from 'three'
import { Drawn, Reader, type Actor, type Veil } from './actors'
import type { Textures } from './textures'

/** What copies of one item show, as the bridge of the core packs it: item by item, read one after the other. */
class Pack {
  index = 0
  readonly veil: Veil = { opacity: 1, tinted: 0, tint: [0, 0, 0] }
  form = 0
  world = 0 // where its place begins
  looks = 0 // where its looks begin: slot, value, slot, value …
  end = 0

  constructor(
    readonly packed: Float32Array,
    readonly count: number,
  ) {}

  /** Goes to the next item, or to the first; false: there is none. */
  next(): boolean {
    const { packed, veil } = this
    if (this.end >= packed.length) return false
    let at = this.end
    this.index = packed[at++] as number
    veil.opacity = packed[at++] as number
    veil.tinted = packed[at++] as number
    for (let c = 0; c < 3; c++) veil.tint[c] = packed[at++] as number
    this.form = packed[at++] as number
    this.world = at
    this.looks = at + 13
    this.end = this.looks + 2 * (packed[at + 12] as number)
    return true
  }

  rewind(): void {
    this.end = 0
  }
}

/** Takes the packed copies of a frame apart, by the item that shows them. */
export function* copiesOf(packed: Float32Array): Generator<{ index: number; copied: Pack }> {
  for (let at = 0; at < packed.length;) {
    const index = packed[at++] as number
    const count = packed[at++] as number
    const all = new Pack(packed.subarray(at), count)
    for (let n = 0; n < count; n++) all.next()
    yield { index, copied: new Pack(packed.subarray(at, (at += all.end)), count) }
  }
}

/** What the copies of one item show, each item in each copy drawn by itself; flat ones are merged like all others. */
export class Copies {
  private shown = new Pack(new Float32Array(), 0)
  private readonly was: number[] = [] // the values of the item itself, while a copy shows others
  private readonly pools = new Map<string, Drawn[]>() // by what they draw
  /** What was drawn last, from the back to the front. */
  layers: Drawn[] = []

  constructor(
    private readonly id: string,
    private readonly scene: Object3D,
  ) {}

  /** Takes over what they show; nothing: none is shown. */
  take(copied = new Pack(new Float32Array(), 0)): void {
    this.shown = copied
  }

  /** Brings all copies to a frame. Meanwhile the values are those that each copy shows. */
  perform(values: Float64Array, actors: Actor[], originals: ReadonlyMap<string, Drawn>, order: number, textures: Textures): void {
    const { shown, was } = this
    const { packed } = shown
    const used = new Map<string, number>()
    const step = 1 / (shown.count + 1)
    this.layers = []
    shown.rewind()
    for (let n = 0; shown.next(); n++) {
      const actor = actors[shown.index]
      const original = actor && originals.get(actor.id)
      if (!actor || !original) continue
      const at = used.get(actor.id) ?? 0
      used.set(actor.id, at + 1)
      const drawn = this.from(actor, at)
      const { world, looks, end } = shown
      was.length = 0
      for (let k = 0; k < 12; k++) {
        was.push(values[actor.world + k] as number)
        values[actor.world + k] = packed[world + k] as number
      }
      for (let k = looks; k < end; k += 2) {
        const slot = packed[k] as number
        was.push(values[slot] as number)
        values[slot] = packed[k + 1] as number
      }
      drawn.update(new Reader(values, actor, shown.veil), order + step * n, textures, original.formOf(shown.form), step)
      for (let k = 0; k < 12; k++) values[actor.world + k] = was[k] as number
      for (let k = looks, m = 12; k < end; k += 2, m++) values[packed[k] as number] = was[m] as number
      this.layers.push(drawn)
    }
    for (const [id, pool] of this.pools) for (const spare of pool.splice(used.get(id) ?? 0)) this.drop(spare)
  }

  /** The forms that items are shown in, by their index. */
  formsOf(): Map<number, Set<number>> {
    const forms = new Map<number, Set<number>>()
    const { shown } = this
    shown.rewind()
    while (shown.next()) {
      if (!shown.form) continue
      const of = forms.get(shown.index)
      if (of) of.add(shown.form)
      else forms.set(shown.index, new Set([shown.form]))
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
