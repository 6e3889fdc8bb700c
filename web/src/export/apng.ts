import { bigEndian, fileOf, joined, Pieces } from './pieces'
import type { Into, Writer } from './writers'

const table = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  return c
})

/** The check sum of a chunk (ISO 3309), as PNG wants it. */
function checkSum(data: Uint8Array): number {
  let c = 0xffffffff
  for (const byte of data) c = (table[(c ^ byte) & 255] as number) ^ (c >>> 8)
  return (c ^ 0xffffffff) >>> 0
}

const signature = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10)

function chunk(type: string, data: Uint8Array): Uint8Array {
  const named = joined(new TextEncoder().encode(type), data)
  return joined(bigEndian([data.length, 4]), named, bigEndian([checkSum(named), 4]))
}

/** The chunks of a PNG. */
function* chunks(png: Uint8Array): Generator<{ type: string; data: Uint8Array; whole: Uint8Array }> {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength)
  for (let at = signature.length; at + 12 <= png.length;) {
    const end = at + 12 + view.getUint32(at)
    const type = String.fromCharCode(...png.subarray(at + 4, at + 8))
    yield { type, data: png.subarray(at + 8, end - 4), whole: png.subarray(at, end) }
    at = end
  }
}

/** An animated PNG (PNG, third edition): the browser's PNG of every frame, put one after the other. */
export function animatedPng({ canvas, to, rate, count, loop }: Into): Writer {
  const pieces = new Pieces(to)
  const { width, height } = canvas
  let order = 0
  return {
    async add(nth) {
      const control = chunk(
        'fcTL',
        bigEndian([order++, 4], [width, 4], [height, 4], [0, 4], [0, 4], [100, 2], [Math.round(100 * rate), 2], [0, 1], [0, 1]),
      )
      const out: Uint8Array[] = nth ? [control] : [signature]
      let pictured = nth > 0
      for (const { type, data, whole } of chunks(await fileOf(canvas, 'image/png'))) {
        if (type === 'IDAT') {
          if (!pictured) out.push(chunk('acTL', bigEndian([count, 4], [loop, 4])), control)
          pictured = true
          out.push(nth ? chunk('fdAT', joined(bigEndian([order++, 4]), data)) : whole)
        } else if (!nth && type !== 'IEND') out.push(whole)
      }
      await pieces.add(...out)
    },
    async end() {
      void pieces.add(chunk('IEND', new Uint8Array()))
      await pieces.end()
    },
    drop: () => pieces.drop(),
  }
}
