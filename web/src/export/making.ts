import { fromBase64 } from '@/core/base64'
import { openBeside } from '@/core/beside'
import type { Asked, Catalogue, Project } from '@/core/types'
import { moments, type Export } from './asked'
import { embedded } from './embedding'
import type { Writing } from './files'
import { Pictures } from './pictures'
import { Pieces } from './pieces'
import { mixed } from './sounds'
import { write, type Writer } from './writers'

/** Whoever waits for an export. */
export interface Waiting {
  /** Hears how many of how many pictures are done. */
  done: (count: number, of: number) => void
  /** Waits until it may go on. */
  turn: () => Promise<void>
  /** Says that it is wanted no more. */
  signal: AbortSignal
}

/** Writes a composition of a project as a file; why that fails is thrown. */
export const make = (project: Project, catalogue: Catalogue, one: Export, file: Writing, waiting: Waiting): Promise<void> =>
  one.format.drawn ? drawn(project, catalogue, one, file, waiting) : written(project, one, file, waiting)

/** Has a core of its own write a file of what there is. */
async function written(project: Project, one: Export, file: Writing, { signal, done }: Waiting): Promise<void> {
  const beside = await openBeside(project, one.from, one.composition)
  const stopped = new Promise<never>((_, reject) => signal.addEventListener('abort', () => reject(new Error('stopped'))))
  stopped.catch(() => undefined)
  try {
    const { name: _, ...asked } = one
    for (let begin: Asked | undefined = { ...asked, format: one.format.key }; ; begin = undefined) {
      const { result, error, broken } = await Promise.race([beside.ask('write', { begin }), stopped])
      if (!result) throw new Error(error ?? broken)
      done(result.done, result.of)
      if (!result.file) continue
      const pieces = new Pieces(file.stream)
      const bytes = fromBase64(result.file)
      void pieces.add(one.format.flat ? await embedded(bytes) : bytes)
      return await pieces.end()
    }
  } finally {
    beside.close()
  }
}

/** Draws pictures, one after the other, and writes them. */
async function drawn(project: Project, catalogue: Catalogue, one: Export, file: Writing, waiting: Waiting): Promise<void> {
  const pictures = await Pictures.open({ ...one, project }, catalogue)
  const { signal } = waiting
  signal.addEventListener('abort', () => pictures.stop())
  let writer: Writer | null = null
  try {
    const own = pictures.composition.rate
    const whole = moments(one, own)
    const { first, count } = one.part ?? { first: 0, count: whole.length }
    const all = whole.slice(first, first + count)
    const heard = one.format.sound && !one.part ? pictures.heard : []
    const mix = heard.length ? await mixed(heard, own) : null
    const called = (nth: number): number => one.from + first + nth
    const into = { ...one, project, catalogue, canvas: pictures.canvas, to: file.stream }
    writer = await write({ ...into, count: all.length, last: one.from + whole.length - 1, sound: !!mix })
    for (const [nth, at] of all.entries()) {
      await pictures.draw(at)
      await writer.add(nth, called(nth), mix?.(at, all[nth + 1] ?? at + own / one.rate))
      waiting.done(nth + 1, all.length)
      await waiting.turn()
      signal.throwIfAborted()
    }
    await writer.end()
  } catch (error) {
    await writer?.drop().catch(() => undefined) // of what fell already
    throw error
  } finally {
    pictures.close()
  }
}

/** Why an export failed, for people. */
export function why(error: unknown): string {
  if (error instanceof DOMException && error.name === 'QuotaExceededError')
    return 'the browser’s disk has no room for it. Make room, or export fewer frames or a smaller size.'
  return error instanceof Error ? error.message : String(error)
}
