import { Zip, ZipPassThrough } from 'fflate'
import { fileOf, Pieces } from './pieces'
import type { Into, Writer } from './writers'

/** A zip with a PNG for each frame, named by its number. PNGs are packed already. */
export function numbered({ canvas, to, name, last }: Into): Writer {
  const pieces = new Pieces(to)
  const digits = Math.max(4, String(last).length)
  let written: Promise<void> = Promise.resolve()
  const zip = new Zip((error, data) => {
    if (error) throw error
    written = pieces.add(data)
  })
  return {
    async add(_nth, number) {
      const picture = await fileOf(canvas, 'image/png')
      const file = new ZipPassThrough(`${name} ${String(number).padStart(digits, '0')}.png`)
      zip.add(file)
      file.push(picture, true)
      await written
    },
    async end() {
      zip.end()
      await pieces.end()
    },
    drop: () => pieces.drop(),
  }
}

/** One picture as a PNG. */
export function still({ canvas, to }: Into): Writer {
  const pieces = new Pieces(to)
  return {
    add: async () => pieces.add(await fileOf(canvas, 'image/png')),
    end: () => pieces.end(),
    drop: () => pieces.drop(),
  }
}
