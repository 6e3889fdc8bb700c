import { Zip, ZipDeflate, ZipPassThrough } from 'fflate'
import type { Writing } from './files'
import { Pieces } from './pieces'

/** A zip that is written file by file. */
export class Zipped {
  private readonly pieces: Pieces
  private readonly zip: Zip
  private written: Promise<void> = Promise.resolve()

  constructor(to: Writing['stream']) {
    this.pieces = new Pieces(to)
    this.zip = new Zip((error, data) => {
      if (error) throw error
      this.written = this.pieces.add(data)
    })
  }

  /** Adds a file: as it is, where it is packed already. */
  async add(name: string, bytes: Uint8Array, packed: boolean): Promise<void> {
    const file = packed ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 })
    this.zip.add(file)
    file.push(bytes, true)
    await this.written
  }

  async end(): Promise<void> {
    this.zip.end()
    await this.pieces.end()
  }

  drop(): Promise<void> {
    return this.pieces.drop()
  }
}
