import { give } from './composables/download'
import { fileName, type Export } from './export/asked'
import { beginWriting } from './export/files'
import { join } from './export/joining'
import { make, why } from './export/making'
import { api } from './net/api'

// A page without an interface, that draws for whoever has opened it: a command.

type Told = { done: number; of: number } | { error: string }
type Job = Omit<Export, 'format' | 'name'> & { format: string }

declare global {
  interface Window {
    wunderkammerDraw: (project: string, job: Job) => void
    wunderkammerJoin: (project: string, job: Job, parts: string[]) => void
    wunderkammerTold?: (message: string) => void
  }
}

const tell = (told: Told): void => window.wunderkammerTold?.(JSON.stringify(told))

async function draw(id: string, job: Job, parts?: string[]): Promise<void> {
  const [{ project }, catalogue] = await Promise.all([api.load(id), api.catalogue()])
  const format = catalogue.formats.find((f) => f.key === job.format)
  const composition = project.compositions.find((c) => c.id === job.composition)
  if (!format || !composition) throw new Error('there is no such format, or no such composition')
  const one: Export = { ...job, format, name: composition.name }
  const file = await beginWriting()
  try {
    if (parts) await join(project, catalogue, one, parts, file)
    else
      await make(project, catalogue, one, file, {
        done: (done, of) => tell({ done, of }),
        turn: () => Promise.resolve(),
        signal: new AbortController().signal,
      })
    give(fileName(one), await file.finish(), 600_000)
  } catch (error) {
    await file.drop()
    throw error
  }
}

const failed = (error: unknown): void => tell({ error: why(error) })
window.wunderkammerDraw = (project, job) => void draw(project, job).catch(failed)
window.wunderkammerJoin = (project, job, parts) => void draw(project, job, parts).catch(failed)
