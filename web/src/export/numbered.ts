import { Zip, ZipPassThrough } from 'fflate'
import type { Into, Writer } from './writers'

/** A zip with a PNG for each frame, named by its number. PNGs are packed already. */
export async function numbered({ canvas, to, name, last }: Into): Promise<Writer> {
  const writer = to.getWriter()
  const digits = Math.max(4, String(last).length)
  let position = 0
  let written: Promise<void> = writer.ready
  const zip = new Zip((error, data) => {
    if (error) throw error
    const at = position
    position += data.length
    written = written.then(() => writer.write({ type: 'write', position: at, data: data as Uint8Array<ArrayBuffer> }))
  })
  return Promise.resolve({
    async add(_nth, frame) {
      const picture = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'))
      if (!picture) throw new Error('the picture is too large for this browser; choose a smaller size')
      const file = new ZipPassThrough(`${name} ${String(frame).padStart(digits, '0')}.png`)
      zip.add(file)
      file.push(new Uint8Array(await picture.arrayBuffer()), true)
      await written
    },
    async end() {
      zip.end()
      await written
      await writer.close()
    },
    async drop() {
      await writer.abort().catch(() => undefined)
    },
  })
}
