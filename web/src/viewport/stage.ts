import { Color, Raycaster, Scene, SRGBColorSpace, Vector2, Vector3, WebGLRenderer, type Object3D } from 'three'
import { assetAt } from '@/net/assets'
import type { Composition } from '@/core/types'
import { Drawn, Reader, type Actor } from './actors'
import { Copies, copiesOf } from './copies'
import { aim, Lights } from './lights'
import { emitters, Particles } from './particles'
import { Merged, type Layer } from './merged'
import { unpack, type Box } from './shapes'
import { Sights, type Lens, type Orbit, type Sight } from './sight'
import { Textures } from './textures'

export type { Actor } from './actors'

/** Whether WebGL is drawn by the processor, where smooth edges cost more than they give. */
function inSoftware(): boolean {
  const gl = document.createElement('canvas').getContext('webgl2')
  const names = gl?.getExtension('WEBGL_debug_renderer_info')
  const name = gl && names ? String(gl.getParameter(names.UNMASKED_RENDERER_WEBGL)) : ''
  gl?.getExtension('WEBGL_lose_context')?.loseContext()
  return /swiftshader|llvmpipe|software/i.test(name)
}

/** Edges are smoothed where a graphics card does it; "on" in the browser's memory asks for it everywhere. */
const smooth = (): boolean => localStorage.getItem('wunderkammer:smooth') === 'on' || !inSoftware()

/** Draws a composition with three.js. */
export class Stage {
  readonly sights = new Sights()
  private readonly renderer: WebGLRenderer
  private readonly scene = new Scene()
  private readonly drawn = new Map<string, Drawn>()
  private readonly flying = new Map<string, Particles>()
  private readonly copies = new Map<string, Copies>()
  private readonly lights = new Lights(this.scene)
  private readonly merged = new Merged(this.scene)
  private readonly textures: Textures
  private readonly clear: boolean
  /** Whether the programs of the first picture are there. */
  private programs: 'none' | 'coming' | 'ready' = 'none'
  private actors: Actor[] = []
  private byIndex: Actor[] = [] // the same, by where they are laid out
  private shows = new Map<string, [number, number]>() // how large what pieces show is
  private players: { actor: Actor; order: number }[] = [] // those that a frame is brought to
  private layers: Layer[] = [] // what of them is drawn, from the back to the front
  private values: Float64Array = new Float64Array()
  private sight: Sight = { x: 0, y: 0, zoom: 1 }
  private orbit: Orbit | null = null
  private frame: Composition | null = null
  private readonly surround = new Color()
  private readonly lens: Lens = { from: new Vector3(), to: new Vector3(), angle: 40, roll: 0 }

  /**
   * Calls when something came that wants to be drawn. Fine: with smooth edges everywhere, a pixel for a pixel. Clear: without a
   * background. Asset: where pictures are.
   */
  constructor(
    canvas: HTMLCanvasElement,
    private readonly again: () => void,
    { fine = false, clear = false, asset = assetAt } = {},
  ) {
    this.clear = clear
    this.renderer = new WebGLRenderer({ canvas, antialias: fine || smooth(), alpha: clear, powerPreference: 'high-performance' })
    this.renderer.setPixelRatio(fine ? 1 : window.devicePixelRatio)
    this.renderer.autoClear = false
    this.textures = new Textures(again, asset)
    // Everything stands in the scene itself, so a mesh's place in the world is its own matrix.
    this.scene.matrixWorldAutoUpdate = false
  }

  /** How wide and high a picture can be, in pixels. */
  get most(): number {
    return this.renderer.capabilities.maxTextureSize
  }

  /** Whether something is on its way that belongs to the picture. */
  get waits(): boolean {
    return this.programs === 'coming' || this.textures.waiting > 0
  }

  resize(width: number, height: number): void {
    Object.assign(this.sights, { width, height })
    this.renderer.setSize(width, height, false)
  }

  look(sight: Sight, orbit: Orbit | null, composition: Composition | null, surround: string): void {
    this.sight = sight
    this.orbit = orbit
    this.frame = composition
    this.surround.set(surround)
  }

  /** Takes over who is on the stage after a change of structure. */
  cast(actors: Actor[]): void {
    this.actors = actors
    this.byIndex = []
    this.shows.clear()
    for (const a of actors) {
      this.byIndex[a.index] = a
      if (a.size) this.shows.set(a.id, a.size)
    }
    // What is hidden is drawn once it is shown.
    this.keep(
      this.drawn,
      actors.filter((a) => ['outlined', 'pictured', 'solid'].includes(a.class) && (!a.hidden || this.drawn.has(a.id))),
      (a) => new Drawn(a.owner, a.class),
      (d) => d.meshes,
    )
    this.keep(
      this.flying,
      actors.filter((a) => a.class === 'particles'),
      (a) => new Particles(a.owner),
      (p) => p.meshes,
    )
    this.lights.cast(actors.filter((a) => a.class === 'light'))
    this.keep(
      this.copies,
      actors.filter((a) => a.kind === 'copies' && !a.copied),
      (a) => new Copies(a.owner, this.scene),
      () => [],
    )
    for (const a of actors) if (a.hidden || a.copied) this.drawn.get(a.id)?.hide()
    this.players = actors
      .map((actor, i) => ({ actor, order: actors.length - i }))
      .filter(({ actor: a }) => !a.copied || a.class === 'light' || a.class === 'particles')
      .filter(
        ({ actor: a }) => (this.drawn.has(a.id) && !a.hidden) || this.flying.has(a.id) || this.copies.has(a.id) || a.class === 'light',
      )
    this.layer()
  }

  /** Finds what is drawn, from the back to the front. */
  private layer(): void {
    this.layers = this.players
      .slice()
      .reverse()
      .flatMap(({ actor: { id } }): Layer | Layer[] => this.copies.get(id)?.layers ?? this.drawn.get(id) ?? this.flying.get(id) ?? [])
  }

  private keep<T extends { dispose(): void }>(
    map: Map<string, T>,
    actors: Actor[],
    make: (a: Actor) => T,
    meshes: (one: T) => Object3D[],
  ): void {
    const present = new Set(actors.map((a) => a.id))
    for (const [id, one] of map) {
      if (present.has(id)) continue
      for (const mesh of meshes(one)) this.scene.remove(mesh)
      one.dispose()
      map.delete(id)
    }
    for (const a of actors) {
      if (map.has(a.id)) continue
      const one = make(a)
      map.set(a.id, one)
      for (const mesh of meshes(one)) this.scene.add(mesh)
    }
  }

  /** Takes over the values of a frame, the shapes that changed, the particles, and what copies show. */
  update(values: Float64Array, shapes: Float32Array, particles: Float32Array, copies: Float32Array): void {
    this.values = values
    for (const record of unpack(shapes)) {
      const actor = this.byIndex[record.index]
      if (actor) this.drawn.get(actor.id)?.take(record, actor.evenOdd)
    }
    const shown = new Set<string>()
    for (const { index, particles: packed } of emitters(particles)) {
      const id = this.byIndex[index]?.id ?? ''
      shown.add(id)
      this.flying.get(id)?.take(packed)
    }
    for (const [id, p] of this.flying) if (!shown.has(id)) p.take(new Float32Array())
    this.takeCopies(copies)
  }

  private takeCopies(packed: Float32Array): void {
    if (!this.copies.size) return
    const shown = new Set<string>()
    const forms = new Map<string, Set<number>>()
    for (const { index, copied } of copiesOf(packed)) {
      const id = this.byIndex[index]?.id ?? ''
      const copies = this.copies.get(id)
      shown.add(id)
      copies?.take(copied)
      for (const [of, numbers] of copies?.formsOf() ?? []) forms.set(this.byIndex[of]?.id ?? '', numbers)
    }
    for (const [id, c] of this.copies) if (!shown.has(id)) c.take()
    for (const a of this.actors) if (a.copied) this.drawn.get(a.id)?.keepForms(forms.get(a.id))
  }

  private perform(): void {
    for (const { actor, order } of this.players) {
      const r = new Reader(this.values, actor)
      if (!actor.hidden) this.drawn.get(actor.id)?.update(r, order, this.textures)
      this.flying.get(actor.id)?.update(r, order)
      if (actor.class === 'light') this.lights.update(actor.id, r)
      this.copies.get(actor.id)?.perform(this.values, this.byIndex, this.drawn, order, this.textures)
    }
    if (this.copies.size) this.layer()
    this.merged.update(this.layers)
  }

  /** The camera of the composition that its picture is taken with: the first in the tree that is on. */
  private camera(): Lens | null {
    for (const actor of this.actors) {
      if (actor.class !== 'camera' || actor.hidden || actor.left >= 0) continue // of pieces, none
      const r = new Reader(this.values, actor)
      if (r.n('active') !== 1) continue
      aim(r, this.lens.from, this.lens.to)
      this.lens.angle = r.n('lensAngle')
      this.lens.roll = r.n('rotation')
      return this.lens
    }
    return null
  }

  /**
   * Has the programs of the first picture made at the side, which takes long: everything else of the page is drawn
   * meanwhile. Those that are needed later are made when they are.
   */
  private prepare(): void {
    this.programs = 'coming'
    const enough = new Promise((resolve) => setTimeout(resolve, 3000)) // a card that was lost never has them
    void Promise.race([this.renderer.compileAsync(this.scene, this.sights.camera), enough]).then(() => {
      this.programs = 'ready'
      this.again()
    })
  }

  /** Draws the picture. False: it will be drawn when it can be. */
  render(): boolean {
    const { height } = this.sights
    const { x, y, zoom } = this.sight
    this.perform()
    this.renderer.setScissorTest(false)
    this.renderer.setClearColor(this.surround, this.clear ? 0 : 1)
    this.renderer.clear()
    if (this.programs === 'none' && this.players.length > 0) this.prepare()
    if (!this.frame) return true
    const [r, g, b] = this.frame.background
    const background = new Color().setRGB(r, g, b, SRGBColorSpace)
    if (this.orbit) {
      this.sights.seeFree(this.orbit)
    } else {
      const lens = this.camera()
      if (lens) this.sights.seeThrough(lens, this.sight, this.frame)
      else this.sights.seeFlat(this.sight)
      const w = this.frame.width * zoom
      const h = this.frame.height * zoom
      this.renderer.setScissorTest(true)
      this.renderer.setScissor(x - w / 2, height - y - h / 2, Math.max(0, w), Math.max(0, h))
      if (!this.clear) this.renderer.setClearColor(background, 1)
      this.renderer.clear()
    }
    if (this.programs === 'coming') return false
    this.renderer.render(this.scene, this.sights.camera)
    return true
  }

  /** Reads the picture that was just drawn, from its lowest row up, its colours multiplied by their alpha. */
  read(into: Uint8Array): void {
    const gl = this.renderer.getContext()
    gl.readPixels(0, 0, gl.drawingBufferWidth, gl.drawingBufferHeight, gl.RGBA, gl.UNSIGNED_BYTE, into)
  }

  /** The ids of what lies under a point of the canvas, the front first. */
  under(px: number, py: number): string[] {
    const { width, height, camera } = this.sights
    const caster = new Raycaster()
    caster.layers.enableAll()
    caster.setFromCamera(new Vector2((px / width) * 2 - 1, 1 - (py / height) * 2), camera as never)
    const copied = [...this.copies.values()].flatMap((c) => c.layers)
    const meshes = [...this.drawn.values(), ...copied].flatMap((d) => d.meshes).filter((m) => m.visible)
    const hits = caster.intersectObjects(meshes, false)
    const solid = new Set(this.actors.filter((a) => a.class === 'solid').map((a) => a.owner))
    // Flat items lie in the order of the tree; of objects, the nearest is in front.
    hits.sort((a, b) => {
      if (solid.has(a.object.userData.id as string) && solid.has(b.object.userData.id as string)) return a.distance - b.distance
      return b.object.renderOrder - a.object.renderOrder
    })
    return [...new Set(hits.map((h) => h.object.userData.id as string))]
  }

  /** The box of what is drawn of an item, in its own space. */
  box(id: string): Box | null {
    const [w, h] = this.shows.get(id) ?? [0, 0]
    return w ? [-w / 2, -h / 2, w / 2, h / 2] : (this.drawn.get(id)?.box ?? null)
  }

  /** How far an object reaches from the viewer and toward him, in its own space. */
  depth(id: string): [back: number, front: number] {
    const b = this.drawn.get(id)?.surface.geometry.boundingBox
    return b ? [b.min.z, b.max.z] : [0, 0]
  }

  dispose(): void {
    for (const d of [...this.copies.values(), ...this.drawn.values(), ...this.flying.values()]) d.dispose()
    this.merged.dispose()
    this.textures.dispose()
    this.renderer.dispose()
  }
}
