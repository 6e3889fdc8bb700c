import {
  BufferGeometry, Color, DoubleSide, Group, Mesh, MeshBasicMaterial, OrthographicCamera, Raycaster, Scene, SRGBColorSpace, Vector2, WebGLRenderer,
} from 'three'
import type { Composition } from '@/core/types'
import { fillGeometry, strokeGeometry, unpack, type Outline } from './outlines'

/** Where in the column of values an item keeps what it is drawn with. */
export interface Slots {
  world: number
  fill: number
  stroke: number
  strokeWidth: number
  opacity: number
}

/** What the stage needs to know of an item, in the order of the tree. */
export interface Actor {
  id: string
  hidden: boolean
  slots: Slots | null // null: never drawn
}

/** One drawn item: a surface and a band along its edge. */
class Drawn {
  readonly group = new Group()
  readonly fill: Mesh<BufferGeometry, MeshBasicMaterial>
  readonly stroke: Mesh<BufferGeometry, MeshBasicMaterial>
  outline: Outline | null = null
  strokeWidth = 0

  constructor(readonly id: string) {
    const material = (): MeshBasicMaterial => new MeshBasicMaterial({ transparent: true, depthTest: false, depthWrite: false, side: DoubleSide, forceSinglePass: true })
    this.fill = new Mesh(new BufferGeometry(), material())
    this.stroke = new Mesh(new BufferGeometry(), material())
    this.group.add(this.fill, this.stroke)
    this.group.matrixAutoUpdate = false
    for (const mesh of [this.fill, this.stroke]) {
      mesh.frustumCulled = false
      mesh.matrixAutoUpdate = false
      mesh.userData.id = id
    }
  }

  reshape(outline: Outline): void {
    this.outline = outline
    this.fill.geometry.dispose()
    this.fill.geometry = fillGeometry(outline)
    this.strokeWidth = -1 // its band is made anew as well
  }

  /** Takes over the values of a frame. */
  update(values: Float64Array, slots: Slots, order: number): void {
    const w = slots.world
    const v = (i: number): number => values[w + i] as number
    this.group.matrix.set(v(0), v(1), v(2), v(3), v(4), v(5), v(6), v(7), v(8), v(9), v(10), v(11), 0, 0, 0, 1)
    const opacity = (values[slots.opacity] as number) / 100
    this.paint(this.fill, values, slots.fill, opacity)
    this.fill.renderOrder = 2 * order
    const width = values[slots.strokeWidth] as number
    if (width !== this.strokeWidth && this.outline) {
      this.strokeWidth = width
      this.stroke.geometry.dispose()
      this.stroke.geometry = width > 0 ? strokeGeometry(this.outline, width) : new BufferGeometry()
    }
    this.paint(this.stroke, values, slots.stroke, width > 0 ? opacity : 0)
    this.stroke.renderOrder = 2 * order + 1
  }

  private paint(mesh: Mesh<BufferGeometry, MeshBasicMaterial>, values: Float64Array, slot: number, opacity: number): void {
    const alpha = (values[slot + 3] as number) * opacity
    mesh.visible = alpha > 0
    mesh.material.opacity = alpha
    mesh.material.color.setRGB(values[slot] as number, values[slot + 1] as number, values[slot + 2] as number, SRGBColorSpace)
  }

  dispose(): void {
    for (const mesh of [this.fill, this.stroke]) {
      mesh.geometry.dispose()
      mesh.material.dispose()
    }
  }
}

/** What is seen of the composition: its middle on the canvas, in CSS pixels, and the zoom. */
export interface Sight {
  x: number
  y: number
  zoom: number
}

/** Whether WebGL is drawn by the processor, where smooth edges cost more than they give. */
function inSoftware(): boolean {
  const gl = document.createElement('canvas').getContext('webgl2')
  const names = gl?.getExtension('WEBGL_debug_renderer_info')
  const name = gl && names ? String(gl.getParameter(names.UNMASKED_RENDERER_WEBGL)) : ''
  gl?.getExtension('WEBGL_lose_context')?.loseContext()
  return /swiftshader|llvmpipe|software/i.test(name)
}

/** Draws a composition with three.js, straight from the front. */
export class Stage {
  private readonly renderer: WebGLRenderer
  private readonly scene = new Scene()
  private readonly camera = new OrthographicCamera()
  private readonly drawn = new Map<string, Drawn>()
  private actors: Actor[] = []
  private values = new Float64Array()
  private size = { width: 1, height: 1 }
  private sight: Sight = { x: 0, y: 0, zoom: 1 }
  private frame: Composition | null = null
  private surround = new Color()

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: !inSoftware(), powerPreference: 'high-performance' })
    this.renderer.setPixelRatio(window.devicePixelRatio)
    this.renderer.autoClear = false
    this.camera.near = -100000
    this.camera.far = 100000
  }

  resize(width: number, height: number): void {
    this.size = { width, height }
    this.renderer.setSize(width, height, false)
  }

  look(sight: Sight, composition: Composition | null, surround: string): void {
    this.sight = sight
    this.frame = composition
    this.surround.set(surround)
  }

  /** Takes over who is on the stage after a change of structure. */
  cast(actors: Actor[]): void {
    this.actors = actors
    const present = new Set(actors.filter((a) => a.slots).map((a) => a.id))
    for (const [id, d] of this.drawn) {
      if (present.has(id)) continue
      this.scene.remove(d.group)
      d.dispose()
      this.drawn.delete(id)
    }
    for (const a of actors) {
      if (!a.slots || this.drawn.has(a.id)) continue
      const d = new Drawn(a.id)
      this.drawn.set(a.id, d)
      this.scene.add(d.group)
    }
  }

  /** Takes over the values of a frame and the outlines that changed. */
  update(values: Float64Array<ArrayBuffer>, outlines: Float32Array): void {
    this.values = values
    for (const outline of unpack(outlines)) {
      const actor = this.actors[outline.index]
      if (actor) this.drawn.get(actor.id)?.reshape(outline)
    }
  }

  render(): void {
    const { width, height } = this.size
    const { x, y, zoom } = this.sight
    const last = this.actors.length
    this.actors.forEach((actor, i) => {
      const d = this.drawn.get(actor.id)
      if (!d || !actor.slots) return
      d.group.visible = !actor.hidden
      if (!actor.hidden) d.update(this.values, actor.slots, last - i)
    })
    this.camera.left = -x / zoom
    this.camera.right = (width - x) / zoom
    this.camera.top = y / zoom
    this.camera.bottom = (y - height) / zoom
    this.camera.updateProjectionMatrix()
    this.renderer.setScissorTest(false)
    this.renderer.setClearColor(this.surround)
    this.renderer.clear()
    if (!this.frame) return
    const w = this.frame.width * zoom
    const h = this.frame.height * zoom
    this.renderer.setScissorTest(true)
    this.renderer.setScissor(x - w / 2, height - y - h / 2, w, h)
    const [r, g, b] = this.frame.background
    this.renderer.setClearColor(new Color().setRGB(r, g, b, SRGBColorSpace))
    this.renderer.clear()
    this.renderer.render(this.scene, this.camera)
  }

  /** The ids of what lies under a point of the canvas, the front first. */
  under(px: number, py: number): string[] {
    const { width, height } = this.size
    const caster = new Raycaster()
    caster.setFromCamera(new Vector2((px / width) * 2 - 1, 1 - (py / height) * 2), this.camera)
    const hits = caster.intersectObjects(this.scene.children, true).filter((h) => h.object.visible && h.object.parent?.visible)
    hits.sort((a, b) => b.object.renderOrder - a.object.renderOrder)
    return [...new Set(hits.map((h) => h.object.userData.id as string))]
  }

  box(id: string): Outline['box'] | null {
    return this.drawn.get(id)?.outline?.box ?? null
  }

  dispose(): void {
    for (const d of this.drawn.values()) d.dispose()
    this.renderer.dispose()
  }
}
