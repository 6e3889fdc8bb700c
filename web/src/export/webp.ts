import { fileOf, joined, littleEndian, Pieces } from './pieces'
import type { Into, Writer } from './writers'

const named = (type: string): Uint8Array => new TextEncoder().encode(type)

/** A chunk of RIFF, of an even size. */
const chunk = (type: string, data: Uint8Array): Uint8Array =>
  joined(named(type), littleEndian([data.length, 4]), data, new Uint8Array(data.length & 1))

/** The picture in a WebP file: its chunks, without what is said of them. */
function picture(file: Uint8Array): { data: Uint8Array; clear: boolean } {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
  const parts: Uint8Array[] = []
  let clear = false
  for (let at = 12; at + 8 <= file.length;) {
    const type = String.fromCharCode(...file.subarray(at, at + 4))
    const size = view.getUint32(at + 4, true)
    const end = at + 8 + size + (size & 1)
    if (['ALPH', 'VP8 ', 'VP8L'].includes(type)) parts.push(file.subarray(at, end))
    clear ||= type === 'ALPH' || (type === 'VP8L' && ((view.getUint32(at + 9, true) >>> 28) & 1) === 1)
    at = end
  }
  return { data: joined(...parts), clear }
}

const bits = { animation: 0x02, alpha: 0x10, replaces: 0x02 }

/** An animated WebP (RFC 9649): the browser's WebP of every frame, put one after the other. */
export function animatedWebp({ canvas, to, rate, loop }: Into): Writer {
  const pieces = new Pieces(to)
  const { width, height } = canvas
  const head = (length: number, flags: number): Uint8Array =>
    joined(
      named('RIFF'),
      littleEndian([length - 8, 4]),
      named('WEBP'),
      chunk('VP8X', littleEndian([flags, 4], [width - 1, 3], [height - 1, 3])),
      chunk('ANIM', littleEndian([0, 4], [loop, 2])),
    )
  void pieces.add(head(8, bits.animation))
  let clear = false
  return {
    async add(nth) {
      const one = picture(await fileOf(canvas, 'image/webp', 0.92))
      clear ||= one.clear
      const lasts = Math.round((1000 * (nth + 1)) / rate) - Math.round((1000 * nth) / rate)
      const about = littleEndian([0, 3], [0, 3], [width - 1, 3], [height - 1, 3], [lasts, 3], [bits.replaces, 1])
      await pieces.add(chunk('ANMF', joined(about, one.data)))
    },
    async end() {
      pieces.put(0, head(pieces.length, bits.animation | (clear ? bits.alpha : 0)))
      await pieces.end()
    },
    drop: () => pieces.drop(),
  }
}
