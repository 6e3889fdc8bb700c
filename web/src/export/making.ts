import type { Catalogue, Project } from '@/core/types'
import { moments, type Export } from './asked'
import type { Writing } from './files'
import { Pictures } from './pictures'
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

/** Draws a composition of a project, and writes the file; why that fails is thrown. */
export async function make(project: Project, catalogue: Catalogue, one: Export, file: Writing, waiting: Waiting): Promise<void> {
  const pictures = await Pictures.open({ ...one, project }, catalogue)
  const { signal } = waiting
  signal.addEventListener('abort', () => pictures.stop())
  let writer: Writer | null = null
  try {
    const own = pictures.composition.rate
    const all = moments(one, own)
    const heard = one.format.sound ? pictures.heard : []
    const mix = heard.length ? await mixed(heard, own) : null
    const called = (nth: number): number => one.from + nth
    writer = await write({
      ...one,
      canvas: pictures.canvas,
      to: file.stream,
      count: all.length,
      last: called(all.length - 1),
      sound: !!mix,
    })
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
