import { deflateSync, crc32 } from 'node:zlib'

type Colour = [r: number, g: number, b: number]

/** A PNG of one colour, made by hand so that no file has to be kept. */
export const png = (width: number, height: number, colour: Colour): Buffer => made(width, height, () => colour)

/** One of two colours side by side. */
export const sides = (left: Colour, right: Colour): Buffer => made(32, 32, (x) => (x < 16 ? left : right))

function made(width: number, height: number, colour: (x: number) => Colour): Buffer {
  const row = Buffer.alloc(1 + 3 * width)
  for (let x = 0; x < width; x++) row.set(colour(x), 1 + 3 * x)
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type), data])
    const head = Buffer.alloc(4)
    head.writeUInt32BE(data.length)
    const sum = Buffer.alloc(4)
    sum.writeUInt32BE(checksum(body))
    return Buffer.concat([head, body, sum])
  }
  const size = Buffer.alloc(13)
  size.writeUInt32BE(width, 0)
  size.writeUInt32BE(height, 4)
  size.set([8, 2, 0, 0, 0], 8)
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', size),
    chunk('IDAT', deflateSync(Buffer.concat(Array<Buffer>(height).fill(row)))),
    chunk('IEND', Buffer.alloc(0)),
  ])
}

function checksum(data: Buffer): number {
  return (crc32 as (d: Buffer) => number)(data)
}
