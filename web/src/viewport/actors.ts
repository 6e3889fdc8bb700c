import { BufferGeometry, Mesh, SRGBColorSpace, type Material } from 'three'
import type { PictureFrame } from '@/core/types'
import { gradientUniforms, surfaceMaterial, type GradientUniforms, type Sort, type SurfaceMaterial } from './materials'
import type { Manner } from './merged'
import { fillGeometry, meshGeometry, pictureGeometry, strokeGeometry, type Box, type Outline, type Record } from './shapes'
import { ramp, type Textures } from './textures'

/** One property of all items of a kind: where that of the first stands, how far on the next one, and how many slots it takes. */
export interface Column {
  first: number
  step: number
  size: number
}

/** What the stage needs to know of an item, in the order of the tree. */
export interface Actor {
  id: string
  index: number // among all that is laid out
  /** The item that a click on it takes: itself, or the piece that shows it. */
  owner: string
  /** The slot of how much the pieces around it leave of its opacity; -1: all of it. */
  left: number
  /** Of a piece: how wide and high what it shows is. */
  size?: [number, number]
  out: boolean // not in output
  kind: string
  class: string
  hidden: boolean
  /** Copies show it, in place of itself. */
  copied: boolean
  world: number // first slot of its place
  row: number // where it stands among the items of its kind
  /** The properties of its kind, by key. */
  columns: ReadonlyMap<string, Column>
  frames: PictureFrame[]
  stops: { at: number; colour: number[] }[]
  evenOdd: boolean
}

/** What a copy makes of the look of an item: what is left of its opacity, and the colour that is mixed into its own. */
export interface Veil {
  opacity: number
  tinted: number
  tint: [number, number, number]
}

const unveiled: Veil = { opacity: 1, tinted: 0, tint: [0, 0, 0] }

/** The values of a frame, as one item sees them. */
export class Reader {
  readonly veil: Veil

  /** Without a veil: as it is by itself, or as a piece shows it. */
  constructor(
    readonly values: Float64Array,
    readonly actor: Actor,
    veil?: Veil,
  ) {
    this.veil = veil ?? (actor.left < 0 ? unveiled : { ...unveiled, opacity: values[actor.left] as number })
  }

  /** A colour with the tint of the copy in it. */
  dyed(colour: ArrayLike<number>): ArrayLike<number> {
    const { tinted, tint } = this.veil
    if (!tinted) return colour
    return [0, 1, 2].map((c) => (colour[c] as number) + ((tint[c] as number) - (colour[c] as number)) * tinted).concat(colour[3] ?? 1)
  }

  n(key: string, component = 0): number {
    const c = this.actor.columns.get(key)
    return c ? (this.values[c.first + c.step * this.actor.row + component] as number) : 0
  }

  has(key: string): boolean {
    return this.actor.columns.has(key)
  }

  slice(key: string): Float64Array {
    const c = this.actor.columns.get(key)
    const slot = c ? c.first + c.step * this.actor.row : 0
    return this.values.subarray(slot, slot + (c?.size ?? 0))
  }

  /** Writes the item's place into a matrix of three's. */
  place(target: { set(...n: number[]): unknown }): void {
    const w = this.actor.world
    const v = (i: number): number => this.values[w + i] as number
    target.set(v(0), v(1), v(2), v(3), v(4), v(5), v(6), v(7), v(8), v(9), v(10), v(11), 0, 0, 0, 1)
  }
}

/** The surface of what has none. */
export const nothing = new BufferGeometry()

export type SurfaceMesh = Mesh<BufferGeometry, SurfaceMaterial>

/** Has a mesh stand where it is put. */
export function still<M extends Mesh>(mesh: M): M {
  mesh.frustumCulled = false
  mesh.matrixAutoUpdate = false
  mesh.matrixWorldAutoUpdate = false
  return mesh
}

/** A mesh of an item that stands where it is put. */
export function meshOf(id: string): SurfaceMesh {
  const mesh = still(new Mesh(nothing, undefined as unknown as SurfaceMaterial))
  mesh.userData.id = id
  return mesh
}

/** The shape of an item: its own, or another that copies show it in. */
export class Form {
  surface: BufferGeometry = nothing
  box: Box | null = null
  /** Whether its picture goes on beyond its edges. */
  tiled = false
  private outline: Outline | null = null
  private edge: Outline | null = null // of the line, where it is not the surface's
  private readonly lines = new Map<string, BufferGeometry>()

  constructor(private readonly kind: string) {}

  /** Takes over a piece that changed. */
  take(record: Record, evenOdd: boolean): void {
    switch (record.kind) {
      case 'surface':
        this.outline = record.outline
        this.box = record.outline.box
        this.replace(this.kind === 'pictured' ? pictureGeometry(record.outline.box) : fillGeometry(record.outline, evenOdd))
        break
      case 'line':
        this.edge = record.outline
        break
      case 'edge':
        this.edge = null
        break
      case 'mesh': {
        // Corners move, but where they are on the picture stays.
        if (this.surface === nothing) this.tiled = record.mesh.uvs.some((x) => x < -0.001 || x > 1.001)
        this.replace(meshGeometry(record.mesh))
        const b = this.surface.boundingBox
        this.box = b && [b.min.x, b.min.y, b.max.x, b.max.y]
      }
    }
    this.dropLines()
  }

  /** The band along the outline; null where there is none. */
  line(width: number, cap: number, join: number): BufferGeometry | null {
    const outline = this.edge ?? this.outline
    if (width <= 0 || !outline) return null
    const key = `${width}/${cap}/${join}`
    let made = this.lines.get(key)
    if (!made) {
      if (this.lines.size >= mostLines) this.dropLines()
      made = strokeGeometry(outline, width, cap, join)
      this.lines.set(key, made)
    }
    return made
  }

  private replace(geometry: BufferGeometry): void {
    if (this.surface !== nothing) this.surface.dispose()
    this.surface = geometry
  }

  private dropLines(): void {
    for (const line of this.lines.values()) line.dispose()
    this.lines.clear()
  }

  dispose(): void {
    this.replace(nothing)
    this.dropLines()
  }
}

/** How many lines of different widths along one shape are kept. */
const mostLines = 24

/** One item as it is drawn: its surface, and the line along it. */
export class Drawn {
  readonly surface: SurfaceMesh
  readonly line: SurfaceMesh | null
  /** Both, in the order in which they are drawn. */
  readonly meshes: SurfaceMesh[]
  readonly form: Form
  private readonly forms = new Map<number, Form>() // that copies show it in, by number
  private sort = -1
  private uniforms: GradientUniforms | null = null
  private rampMade = ''

  constructor(
    readonly id: string,
    private readonly kind: string,
  ) {
    this.form = new Form(kind)
    this.surface = meshOf(id)
    this.line = kind === 'outlined' ? meshOf(id) : null
    this.meshes = this.line ? [this.surface, this.line] : [this.surface]
  }

  get box(): Box | null {
    return this.form.box
  }

  /** Flat: areas of one colour each, with no light on them. */
  get manner(): Manner {
    if (this.kind === 'solid') return 'solid'
    return this.kind === 'outlined' && this.sort === 0 ? 'flat' : 'own'
  }

  /** Takes over a piece of a shape that changed. */
  take(record: Record, evenOdd: boolean): void {
    let form = this.form
    if (record.form) {
      form = this.forms.get(record.form) ?? new Form(this.kind)
      this.forms.set(record.form, form)
    }
    form.take(record, evenOdd)
  }

  /** The shape that copies show it in; 0 is its own. */
  formOf(number: number): Form {
    return this.forms.get(number) ?? this.form
  }

  /** Drops the forms that no copy shows any more. */
  keepForms(shown: Set<number> | undefined): void {
    for (const [number, form] of this.forms) {
      if (shown?.has(number)) continue
      form.dispose()
      this.forms.delete(number)
    }
  }

  hide(): void {
    for (const mesh of this.meshes) mesh.visible = false
  }

  /** Takes over the values of a frame; the line is drawn above the surface by that much. */
  update(r: Reader, order: number, textures: Textures, form = this.form, above = 1): void {
    const opacity = (r.n('opacity') / 100) * r.veil.opacity
    this.dress(r)
    r.place(this.surface.matrixWorld)
    this.surface.geometry = form.surface
    this.surface.renderOrder = 2 * order
    if (this.kind === 'pictured') this.showPicture(r, opacity, textures)
    else if (this.kind === 'solid') this.showSolid(r, opacity, textures, form)
    else {
      this.showFill(r, opacity)
      this.showLine(r, opacity, form)
      if (this.line) this.line.renderOrder = 2 * order + above
    }
  }

  /** Changes the materials where they take another program. */
  private dress(r: Reader): void {
    const sort: Sort = {
      lit: r.n('lit') === 1,
      solid: this.kind === 'solid',
      gradient: r.n('gradient') > 0,
      picture: this.kind !== 'outlined' && r.actor.frames.length > 0,
    }
    const key = (sort.lit ? 1 : 0) + (sort.gradient ? 2 : 0) + (sort.picture ? 4 : 0)
    if (key === this.sort) return
    this.sort = key
    this.uniforms = sort.gradient ? gradientUniforms() : null
    this.rampMade = ''
    this.undress(this.surface.material)
    this.surface.material = surfaceMaterial(sort, this.uniforms)
    if (this.line) {
      this.undress(this.line.material)
      this.line.material = surfaceMaterial({ ...sort, gradient: false }, null)
    }
  }

  private undress(material: Material | undefined): void {
    material?.dispose()
  }

  private paint(mesh: SurfaceMesh, colour: ArrayLike<number>, opacity: number): void {
    const alpha = (colour[3] ?? 1) * opacity
    mesh.visible = alpha > 0
    mesh.material.opacity = alpha
    mesh.material.color.setRGB(colour[0] as number, colour[1] as number, colour[2] as number, SRGBColorSpace)
  }

  private showFill(r: Reader, opacity: number): void {
    if (!this.uniforms) return this.paint(this.surface, r.dyed(r.slice('fill')), opacity)
    this.paint(this.surface, [1, 1, 1, 1], opacity)
    const u = this.uniforms
    const first = Float64Array.from(r.dyed(r.slice('fill')))
    const last = Float64Array.from(r.dyed(r.slice('secondFill')))
    const stops = r.veil.tinted ? r.actor.stops.map((s) => ({ ...s, colour: Array.from(r.dyed(s.colour)) })) : r.actor.stops
    const made = [...first, ...last, JSON.stringify(stops)].join()
    if (made !== this.rampMade) {
      this.rampMade = made
      u.gradientRamp.value?.dispose()
      u.gradientRamp.value = ramp(first, last, stops)
    }
    u.gradientFrom.value.set(r.n('gradientFrom'), r.n('gradientFrom', 1))
    u.gradientTo.value.set(r.n('gradientTo'), r.n('gradientTo', 1))
    u.gradientWidth.value = r.n('gradientWidth') / 100
    u.gradientRadial.value = r.n('gradient') === 2
  }

  private showLine(r: Reader, opacity: number, form: Form): void {
    const line = this.line
    if (!line) return
    const geometry = form.line(r.n('strokeWidth'), r.n('cap'), r.n('join'))
    if (!geometry) {
      line.visible = false
      return
    }
    line.geometry = geometry
    line.matrixWorld.copy(this.surface.matrixWorld)
    this.paint(line, r.dyed(r.slice('stroke')), opacity)
  }

  /** The frame of a flipbook that shows: by number from 1, held at the ends. */
  private frame(r: Reader): PictureFrame | undefined {
    const { frames } = r.actor
    const n = r.has('frame') ? Math.floor(r.n('frame')) : 1
    return frames[Math.max(0, Math.min(frames.length - 1, n - 1))]
  }

  private showPicture(r: Reader, opacity: number, textures: Textures): void {
    const frame = this.frame(r)
    const k = r.n('tintStrength') / 100
    const tint = r.slice('tint')
    this.paint(this.surface, r.dyed([0, 1, 2].map((c) => 1 + ((tint[c] as number) - 1) * k)), frame ? opacity : opacity * 0.35)
    this.surface.material.map = frame ? textures.get(frame) : null
  }

  private showSolid(r: Reader, opacity: number, textures: Textures, form: Form): void {
    const frame = this.frame(r)
    this.paint(this.surface, r.dyed(frame ? [1, 1, 1, r.n('colour', 3)] : r.slice('colour')), opacity)
    this.surface.material.map = frame ? textures.get(frame, form.tiled) : null
    if ('roughness' in this.surface.material) this.surface.material.roughness = 0.08 + 0.92 * (r.n('roughness') / 100)
  }

  dispose(): void {
    for (const mesh of this.meshes) this.undress(mesh.material)
    this.form.dispose()
    this.keepForms(undefined)
    this.uniforms?.gradientRamp.value?.dispose()
  }
}
