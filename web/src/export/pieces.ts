import type { Writing } from './files'

/** A file that is written one piece after the other, and over what was written where that is known only at the end. */
export class Pieces {
  private readonly writer: WritableStreamDefaultWriter<{ type: 'write'; position: number; data: Uint8Array<ArrayBuffer> }>
  private position = 0
  private written: Promise<void>

  constructor(to: Writing['stream']) {
    this.writer = to.getWriter()
    this.written = this.writer.ready
  }

  /** How many bytes there are by now. */
  get length(): number {
    return this.position
  }

  /** Adds pieces; what is returned is done when all that was added is written. */
  add(...pieces: Uint8Array[]): Promise<void> {
    for (const data of pieces) {
      this.put(this.position, data)
      this.position += data.length
    }
    return this.written
  }

  /** Writes over what is there. */
  put(position: number, data: Uint8Array): void {
    this.written = this.written.then(() => this.writer.write({ type: 'write', position, data: data as Uint8Array<ArrayBuffer> }))
  }

  async end(): Promise<void> {
    await this.written
    await this.writer.close()
  }

  async drop(): Promise<void> {
    this.written.catch(() => undefined)
    await this.writer.abort().catch(() => undefined)
  }
}

/** Numbers as bytes, each of so many, the lowest first or last. */
function bytes(numbers: [value: number, size: number][], little: boolean): Uint8Array {
  const out: number[] = []
  for (const [value, size] of numbers) {
    const one = Array.from({ length: size }, (_, k) => Math.floor(value / 256 ** k) & 255)
    out.push(...(little ? one : one.reverse()))
  }
  return Uint8Array.from(out)
}
export const littleEndian = (...numbers: [value: number, size: number][]): Uint8Array => bytes(numbers, true)
export const bigEndian = (...numbers: [value: number, size: number][]): Uint8Array => bytes(numbers, false)

export function joined(...parts: Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}

/** The picture on a canvas as a file of a type. */
export async function fileOf(canvas: HTMLCanvasElement, type: string, quality?: number): Promise<Uint8Array<ArrayBuffer>> {
  const picture = await new Promise<Blob | null>((done) => canvas.toBlob(done, type, quality))
  if (picture?.type !== type) throw new Error('this browser can’t write a picture of this type and size; choose a smaller size, or PNG')
  return new Uint8Array(await picture.arrayBuffer())
}
