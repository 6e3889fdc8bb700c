import { ClampToEdgeWrapping, DataTexture, LinearFilter, RepeatWrapping, SRGBColorSpace, Texture, TextureLoader } from 'three'
import type { PictureFrame } from '@/core/types'

/** The pictures of a composition, each loaded once. */
export class Textures {
  private readonly loader = new TextureLoader()
  private readonly whole = new Map<string, Texture>()
  private readonly parts = new Map<string, Texture>()
  /** How many pictures are on their way. */
  waiting = 0

  /** Calls when a picture has come that was asked for. */
  constructor(
    private readonly arrived: () => void,
    /** Where a picture is. */
    private readonly place: (asset: string) => string,
  ) {}

  /** The texture of a frame, repeated beyond its edges or not; empty until its picture has come. */
  get(frame: PictureFrame, tiled = false): Texture {
    const part = frame.part?.[2] ? frame.part : null
    if (!part && !tiled) return this.load(frame.asset)
    const key = `${frame.asset}/${part?.join() ?? ''}/${tiled ? 'tiled' : ''}`
    let t = this.parts.get(key)
    if (!t) {
      const source = this.load(frame.asset)
      t = source.clone()
      if (tiled) t.wrapS = t.wrapT = RepeatWrapping
      this.parts.set(key, t)
      this.cut(t, source, part)
    }
    return t
  }

  private load(asset: string): Texture {
    let t = this.whole.get(asset)
    if (!t) {
      this.waiting++
      const came = (): void => {
        this.waiting--
        this.arrived()
      }
      const cut = (): void => {
        for (const [key, part] of this.parts) {
          const [id, numbers] = key.split('/') as [string, string]
          if (id === asset) this.cut(part, t as Texture, numbers ? numbers.split(',').map(Number) : null)
        }
        came()
      }
      t = this.loader.load(this.place(asset), cut, undefined, came)
      t.colorSpace = SRGBColorSpace
      t.wrapS = t.wrapT = ClampToEdgeWrapping
      t.generateMipmaps = false
      t.minFilter = LinearFilter
      this.whole.set(asset, t)
    }
    return t
  }

  private cut(t: Texture, source: Texture, part: readonly number[] | null): void {
    const image = source.image as { width: number; height: number } | null
    if (!image?.width) return
    t.source = source.source
    if (part) {
      const [left = 0, top = 0, width = 1, height = 1] = part
      t.repeat.set(width / image.width, height / image.height)
      t.offset.set(left / image.width, 1 - (top + height) / image.height)
    }
    t.needsUpdate = true
  }

  dispose(): void {
    for (const t of [...this.whole.values(), ...this.parts.values()]) t.dispose()
  }
}

const rampSize = 256

/** The colours of a gradient, from its first to its last, as a strip. */
export function ramp(first: ArrayLike<number>, last: ArrayLike<number>, between: { at: number; colour: number[] }[]): DataTexture {
  const stops = [{ at: 0, colour: first }, ...between, { at: 1, colour: last }]
  const data = new Uint8Array(4 * rampSize)
  let k = 0
  for (let i = 0; i < rampSize; i++) {
    const at = i / (rampSize - 1)
    while (k < stops.length - 2 && (stops[k + 1]?.at ?? 1) <= at) k++
    const a = stops[k] as (typeof stops)[number]
    const b = stops[k + 1] as (typeof stops)[number]
    const u = b.at > a.at ? Math.min(1, Math.max(0, (at - a.at) / (b.at - a.at))) : 1
    for (let c = 0; c < 4; c++) data[4 * i + c] = Math.round(255 * ((a.colour[c] ?? 0) + ((b.colour[c] ?? 0) - (a.colour[c] ?? 0)) * u))
  }
  const t = new DataTexture(data, rampSize, 1)
  t.minFilter = t.magFilter = LinearFilter
  t.needsUpdate = true
  return t
}
