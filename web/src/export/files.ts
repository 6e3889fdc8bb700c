/** A file that is written piece by piece, on the disk where the browser has room for that, and is given to the user at the end. */
export interface Writing {
  stream: WritableStream<{ type: 'write'; position: number; data: Uint8Array<ArrayBuffer> }>
  /** What was written; the stream is closed. */
  finish: () => Promise<Blob>
  /** Leaves no trace. */
  drop: () => Promise<void>
}

const folder = 'exports'

/** Begins to write a file. */
export async function beginWriting(): Promise<Writing> {
  if (!('storage' in navigator) || !('getDirectory' in navigator.storage)) return inMemory()
  try {
    const root = await navigator.storage.getDirectory()
    const exports = await root.getDirectoryHandle(folder, { create: true })
    const name = `${Date.now()} ${crypto.randomUUID()}`
    const handle = await exports.getFileHandle(name, { create: true })
    const stream = await handle.createWritable()
    return {
      stream: stream as Writing['stream'],
      finish: () => handle.getFile(),
      drop: async () => {
        await stream.abort().catch(() => undefined)
        await exports.removeEntry(name).catch(() => undefined)
      },
    }
  } catch {
    return inMemory()
  }
}

function inMemory(): Writing {
  let bytes = new Uint8Array(1 << 20)
  let length = 0
  return {
    stream: new WritableStream({
      write({ position, data }) {
        const end = position + data.length
        if (end > bytes.length) {
          const more = new Uint8Array(Math.max(end, 2 * bytes.length))
          more.set(bytes.subarray(0, length))
          bytes = more
        }
        bytes.set(data, position)
        length = Math.max(length, end)
      },
    }),
    finish: () => Promise.resolve(new Blob([bytes.subarray(0, length)])),
    drop: () => Promise.resolve(),
  }
}

/** How long a file is kept for the browser to copy it to where the user wants it, in ms. */
const kept = 3600_000

/** Takes away what earlier exports left on the disk. */
export async function clearFiles(): Promise<void> {
  if (!('storage' in navigator) || !('getDirectory' in navigator.storage)) return
  try {
    const exports = await (await navigator.storage.getDirectory()).getDirectoryHandle(folder)
    for await (const name of exports.keys()) if (Date.now() - parseInt(name) > kept) await exports.removeEntry(name)
  } catch {
    // there are none, or another window writes one
  }
}
