import { proxyRefs, shallowRef, type ShallowRef } from 'vue'
import { castOf } from '@/composables/cast'
import { hex } from '@/composables/format'
import { openBeside, type Beside } from '@/core/beside'
import type { Blur, Catalogue, Composition, Control, Frame, Id, Operation, Project } from '@/core/types'
import { valuesOf } from '@/core/values'
import { useStructure } from '@/stores/document/structure'
import { Stage } from '@/viewport/stage'
import { Exposure } from './exposure'
import type { Heard } from './sounds'

/** What is drawn: a composition of a project, at a size in pixels, on its background or on none. */
export interface Asked {
  project: Project
  composition: Id
  width: number
  height: number
  clear: boolean
  /** Where its pictures are, if not on the server. */
  asset?: (asset: string) => string
  /** How what moves is smeared; absent: not at all. */
  blur?: Blur
}

/** The pictures of a composition, drawn apart from the studio, with smooth edges and without anything that is not output. */
export class Pictures {
  /** What writers take the picture from. */
  readonly canvas = document.createElement('canvas')
  private readonly blurred: ({ exposure: Exposure; pixels: Uint8Array; context: CanvasRenderingContext2D } & Blur) | null = null
  private wake: () => void = () => undefined
  private readonly stage: Stage
  private drawn = -1
  private readonly stopped = Promise.withResolvers<never>()

  private constructor(
    private readonly beside: Beside,
    asked: Asked,
    readonly composition: Composition,
    private readonly structure: ReturnType<typeof useStructure>,
    private readonly values: ShallowRef<Float64Array>,
  ) {
    this.stopped.promise.catch(() => undefined) // mostly nobody waits
    const { width, height, blur } = asked
    const stage = blur ? document.createElement('canvas') : this.canvas
    this.stage = new Stage(stage, () => this.wake(), { fine: true, clear: asked.clear, asset: asked.asset })
    this.stage.resize(width, height)
    const most = this.stage.most
    if (Math.max(width, height) > most) {
      this.close()
      throw new Error(`this browser draws pictures of at most ${most} px; choose a smaller size`)
    }
    if (blur) {
      Object.assign(this.canvas, { width, height })
      const context = this.canvas.getContext('2d')
      if (!context) throw new Error('this browser draws no pictures of this size; choose a smaller one')
      this.blurred = { ...blur, exposure: new Exposure(width, height), pixels: new Uint8Array(4 * width * height), context }
    }
    this.sight(width, height)
    const read = proxyRefs(structure.read)
    this.stage.cast(castOf(read).map((actor) => (actor.out ? { ...actor, hidden: true } : actor)))
  }

  /** Makes the pictures of a composition ready; why there can be none is thrown. */
  static async open(asked: Asked, catalogue: Catalogue): Promise<Pictures> {
    const beside = await openBeside(asked.project, 0, asked.composition)
    try {
      const { view } = beside.opened
      const values = shallowRef<Float64Array>(new Float64Array())
      const structure = useStructure(shallowRef(catalogue), values, new Map())
      structure.take(view, asked.project)
      const composition = view.compositions.find((c) => c.id === view.composition)
      if (!composition) throw new Error('the composition is no longer there')
      const pictures = new Pictures(beside, asked, composition, structure, values)
      pictures.take(beside.first)
      return pictures
    } catch (error) {
      beside.close()
      throw error
    }
  }

  private take(frame: Frame | null): void {
    if (!frame) throw new Error('the frame could not be worked out')
    this.values.value = valuesOf(frame, this.values.value)
    this.stage.update(this.values.value, frame.shapes, frame.particles, frame.copies)
    this.drawn = frame.frame
  }

  /** Draws a frame whole, with all pictures that are in it. What is on the canvas is to be taken before anything else is waited for. */
  async draw(at: number): Promise<void> {
    const { exposure, pixels, context, samples, angle } = this.blurred ?? {}
    if (!exposure || !pixels || !context || !samples) return this.one(at)
    exposure.open()
    for (let k = 0; k < samples; k++) {
      await this.one(Math.max(0, at + ((angle ?? 0) / 360) * ((k + 0.5) / samples - 0.5)))
      this.stage.read(pixels)
      exposure.add(pixels)
    }
    context.putImageData(exposure.develop(), 0, 0)
  }

  /** Draws the picture at a moment, which may lie between frames. */
  private async one(at: number): Promise<void> {
    await this.evaluate(at)
    while (!this.stage.render() || this.stage.waits) await this.unlessStopped(new Promise<void>((done) => (this.wake = done)))
  }

  /** Has everything stand as some operations make it, in place of those before. */
  async put(ops: Operation[]): Promise<void> {
    this.take(await this.unlessStopped(this.beside.preview('operations', { ops }, Math.max(0, this.drawn))))
  }

  /** Works out a moment without drawing it. */
  async evaluate(at: number): Promise<void> {
    if (at !== this.drawn) this.take(await this.unlessStopped(this.beside.frame(at)))
  }

  /** What a property is at the frame that was drawn last. */
  value(item: Id, property: string): number[] {
    const read = proxyRefs(this.structure.read)
    const spec = read.spec(item, property)
    return spec ? [...read.numbers(item, spec)] : []
  }

  /** The controls of the composition, with the items that have them; of a reading, those that were handed off to it. */
  get controls(): { item: Id; owner: string; control: Control }[] {
    const read = proxyRefs(this.structure.read)
    return read.order.flatMap((id) => {
      const item = read.items.get(id)
      const list = this.composition.reading ? read.controlsOf(id) : (item?.controls ?? [])
      return list.map((control) => ({ item: id, owner: item?.name ?? '', control }))
    })
  }

  /** Draws it at another size from now on. */
  resize(width: number, height: number): void {
    this.stage.resize(width, height)
    this.sight(width, height)
    this.drawn = -1
  }

  private sight(width: number, height: number): void {
    const { composition } = this
    const ground = hex(composition.background).slice(0, 7) // where a rest of a pixel is left at an edge
    this.stage.look({ x: width / 2, y: height / 2, zoom: width / composition.width }, null, composition, ground)
  }

  /** What is heard of the composition. */
  get heard(): Heard[] {
    const read = proxyRefs(this.structure.read)
    return read.order.flatMap((id) => {
      const sound = read.items.get(id)?.sound
      const spec = read.spec(id, 'volume')
      if (!sound || !spec || read.hidden.has(id) || read.out.has(id)) return []
      const volume = (): number => Math.max(0, Math.min(1, (read.numbers(id, spec)[0] ?? 100) / 100))
      return [{ asset: sound.asset, start: sound.start ?? 0, volume }]
    })
  }

  private unlessStopped<T>(what: Promise<T>): Promise<T> {
    return Promise.race([what, this.stopped.promise])
  }

  /** Whoever waits for a picture gets none any more, however long the core or the card would take over it. */
  stop(): void {
    this.stopped.reject(new Error('stopped'))
  }

  close(): void {
    this.beside.close()
    this.stage.dispose()
  }
}
