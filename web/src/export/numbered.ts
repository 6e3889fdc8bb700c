import { fileOf, Pieces } from './pieces'
import type { Into, Writer } from './writers'
import { Zipped } from './zipped'

/** A zip with a PNG for each frame, named by its number. PNGs are packed already. */
export function numbered({ canvas, to, name, last }: Into): Writer {
  const zip = new Zipped(to)
  const digits = Math.max(4, String(last).length)
  return {
    add: async (_nth, number) => zip.add(`${name} ${String(number).padStart(digits, '0')}.png`, await fileOf(canvas, 'image/png'), true),
    end: () => zip.end(),
    drop: () => zip.drop(),
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
