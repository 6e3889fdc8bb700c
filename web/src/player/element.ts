import type { Catalogue, Id, Project } from '@/core/types'
import { Pictures } from '@/export/pictures'
import { named, readable, standingAt, valueOf, type Given, type Named } from './controls'

/** What a folder of a player holds, besides the player. */
export interface Played {
  project: Project
  composition: Id
  catalogue: Catalogue
  /** The files of pictures, by the names of their content. */
  assets: Record<string, string>
}

/** The attributes that are none of a control. */
const ours = new Set([
  'src',
  'autoplay',
  'loop',
  'class',
  'id',
  'style',
  'slot',
  'part',
  'hidden',
  'title',
  'role',
  'tabindex',
  'lang',
  'dir',
])

const styles = `
  :host { display: block; position: relative; overflow: hidden }
  :host([hidden]) { display: none }
  img, canvas { display: block; width: 100%; height: 100%; object-fit: contain }
  canvas { position: absolute; inset: 0 }
`

/**
 * A composition that plays on any page. Its controls are attributes; what a page sets of them takes the place of their pins. Until it is
 * ready, where the visitor wants no motion and where there is no WebGL, a still picture stands in.
 */
export class WunderkammerPlayer extends HTMLElement {
  private readonly still = document.createElement('img')
  private pictures: Pictures | null = null
  private controls = new Map<string, Named>()
  private readonly values = new Map<string, number[] | string>()
  private at = 0 // frames
  private running = false
  /** Grows each time it begins to play: a run that another has taken the place of goes on no more. */
  private run = 0
  private last = 0
  private drawing = false
  private again = false
  private changed = false
  private loaded = ''
  private folder = ''
  private readonly sizes = new ResizeObserver(() => this.fit())
  private readonly attributesSeen = new MutationObserver((list) => {
    for (const { attributeName: name } of list)
      if (name === 'src') void this.load()
      else if (name) this.takeAttribute(name)
  })

  constructor() {
    super()
    const root = this.attachShadow({ mode: 'open' })
    const sheet = new CSSStyleSheet()
    sheet.replaceSync(styles)
    root.adoptedStyleSheets = [sheet]
    this.still.alt = ''
    root.append(this.still)
  }

  connectedCallback(): void {
    this.attributesSeen.observe(this, { attributes: true })
    this.sizes.observe(this)
    void this.load()
  }

  disconnectedCallback(): void {
    this.attributesSeen.disconnect()
    this.sizes.disconnect()
    this.end()
  }

  /** How long it is, in seconds; 0 until it is ready. */
  get duration(): number {
    const c = this.pictures?.composition
    return c ? c.frames / c.rate : 0
  }

  /** Where it is, in seconds. */
  get currentTime(): number {
    return this.at / (this.pictures?.composition.rate ?? 1)
  }

  get paused(): boolean {
    return !this.running
  }

  /** The names of its controls. */
  get names(): string[] {
    return [...this.controls.keys()]
  }

  play(): void {
    if (this.running) return
    this.running = true
    this.last = performance.now()
    if (!this.pictures) return
    if (!this.hasAttribute('loop') && this.at >= this.pictures.composition.frames - 1) this.at = 0
    this.tell('play')
    const run = ++this.run
    requestAnimationFrame((now) => this.step(now, run))
  }

  pause(): void {
    if (this.running) this.tell('pause')
    this.running = false
  }

  seek(seconds: number): void {
    const c = this.pictures?.composition
    if (!c || !Number.isFinite(seconds)) return
    this.at = Math.max(0, Math.min(c.frames - 1, seconds * c.rate))
    void this.draw()
  }

  /** Sets a control, whatever its pins say. Throws where there is no such control, or no such value of it. */
  set(name: string, given: Given): void {
    const one = this.controls.get(name)
    if (!one) throw new Error(this.pictures ? `there is no control ${name}; there are ${this.names.join(', ')}` : 'it is not ready yet')
    const value = valueOf(one.control, given)
    if (value === null) throw new Error(`${String(given)} is no value of ${name}`)
    if (JSON.stringify(this.values.get(name)) === JSON.stringify(value)) return
    this.values.set(name, value)
    this.changed = true
    this.tell('change', { name, value: typeof value === 'string' ? value : readable(one.control, value) })
    void this.draw()
  }

  /** What a control is set to, or else what it is at the frame that is shown; a text that was never set is not told. */
  get(name: string): Given | undefined {
    const one = this.controls.get(name)
    if (!one || !this.pictures) return undefined
    const value = this.values.get(name) ?? this.pictures.value(one.item, one.control.id)
    if (typeof value === 'string') return value
    return one.control.kind === 'text' ? undefined : readable(one.control, value)
  }

  private tell(what: string, detail?: object): void {
    this.dispatchEvent(new CustomEvent(what, { detail }))
  }

  private async load(): Promise<void> {
    const folder = new URL((this.getAttribute('src') ?? import.meta.url.replace(/[^/]*$/, '')).replace(/\/?$/, '/'), document.baseURI).href
    if (folder === this.loaded) return
    this.end()
    this.loaded = this.folder = folder
    this.still.src = folder + 'still.webp'
    this.still.hidden = false
    try {
      const answer = await fetch(folder + 'composition.json')
      if (!answer.ok) throw new Error(`there is no player at ${folder}`)
      const played = (await answer.json()) as Played
      const asset = (id: string): string => folder + (played.assets[id] ?? `assets/${id}`)
      const { project, composition, catalogue } = played
      const scene = project.compositions?.find((c) => c.id === composition)
      if (!scene) throw new Error('the player has no composition; export it again')
      const { width, height } = this.size(scene)
      const pictures = await Pictures.open({ project, composition, width, height, clear: false, asset }, catalogue)
      if (this.folder !== folder || !this.isConnected) return pictures.close()
      this.pictures = pictures
      this.controls = named(pictures.controls, scene)
      for (const { name } of this.attributes) this.takeAttribute(name)
      await this.draw()
      this.shadowRoot?.append(pictures.canvas)
      this.fit()
      this.tell('ready')
      const calm = matchMedia('(prefers-reduced-motion: reduce)').matches
      const wanted = this.running || (this.hasAttribute('autoplay') && !calm)
      this.running = false
      if (wanted) this.play()
    } catch (error) {
      this.tell('error', { message: error instanceof Error ? error.message : String(error) })
    }
  }

  private takeAttribute(name: string): void {
    const given = this.getAttribute(name)
    if (ours.has(name) || given === null || !this.controls.has(name)) return
    try {
      this.set(name, given)
    } catch (error) {
      this.tell('error', { message: (error as Error).message })
    }
  }

  /** The size that it is drawn at: what it is seen at, in pixels of the screen. */
  private size(c?: { width: number; height: number }): { width: number; height: number } {
    const of = c ?? this.pictures?.composition ?? { width: 1280, height: 720 }
    const scale = Math.min((this.clientWidth || of.width) / of.width, (this.clientHeight || Infinity) / of.height) * devicePixelRatio
    return { width: Math.max(1, Math.round(of.width * scale)), height: Math.max(1, Math.round(of.height * scale)) }
  }

  private fit(): void {
    if (!this.pictures || !this.clientWidth) return
    const { width, height } = this.size()
    if (width === this.pictures.canvas.width && height === this.pictures.canvas.height) return
    this.pictures.resize(width, height)
    void this.draw()
  }

  private step(now: number, run: number): void {
    const { pictures } = this
    if (!this.running || !pictures || run !== this.run) return
    const { frames, rate } = pictures.composition
    this.at += ((now - this.last) / 1000) * rate
    this.last = now
    if (this.at > frames - 1) {
      if (this.hasAttribute('loop')) this.at %= frames
      else {
        this.at = frames - 1
        this.running = false
      }
    }
    void this.draw().then(() => {
      if (this.running) requestAnimationFrame((then) => this.step(then, run))
      else if (this.at >= frames - 1 && run === this.run) this.tell('ended')
    })
  }

  /** Draws where it is, with what was set; what is asked for meanwhile is drawn after it, once. */
  private async draw(): Promise<void> {
    const { pictures } = this
    if (!pictures) return
    if (this.drawing) {
      this.again = true
      return
    }
    this.drawing = true
    try {
      do {
        this.again = false
        if (this.changed) {
          this.changed = false
          const all = [...this.values].flatMap(([name, value]): [Named, number[] | string][] => {
            const one = this.controls.get(name)
            return one ? [[one, value]] : []
          })
          await pictures.put(standingAt(pictures.composition.id, all))
        }
        await pictures.draw(Math.floor(this.at))
      } while (this.again)
      this.still.hidden = pictures.canvas.isConnected
      this.tell('frame', { seconds: this.currentTime })
    } catch (error) {
      if (this.pictures === pictures) this.tell('error', { message: error instanceof Error ? error.message : String(error) })
    } finally {
      this.drawing = false
    }
  }

  private end(): void {
    this.pictures?.stop()
    this.pictures?.close()
    this.pictures?.canvas.remove()
    this.pictures = null
    this.running = this.drawing = this.again = false
    this.loaded = this.folder = ''
    this.at = 0
    this.controls.clear()
    this.values.clear()
    this.still.hidden = false
  }
}
