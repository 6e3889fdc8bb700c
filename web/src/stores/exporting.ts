import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { core } from '@/core/client'
import { give } from '@/composables/download'
import { percentOf } from '@/composables/format'
import { said, tell } from '@/composables/notify'
import type { Project } from '@/core/types'
import { fileName, type Export } from '@/export/asked'
import { useDocument } from './document'

interface Job extends Export {
  done: number
  of: number
  began: number
}

/** Exports: one at a time, while one goes on working. */
export const useExporting = defineStore('exporting', () => {
  const doc = useDocument()
  const job = shallowRef<Job | null>(null)
  let stop = new AbortController()
  /** How many seconds it will take yet, as far as that can be told. */
  const left = computed(() => {
    const { done = 0, of = 0, began = 0 } = job.value ?? {}
    return done < 2 ? null : ((performance.now() - began) / 1000 / done) * (of - done)
  })
  /** How far it is, in percent. */
  const percent = computed(() => percentOf(job.value?.done ?? 0, job.value?.of ?? 0))

  /** Exports the project as it is now; what is changed meanwhile is not in it. */
  async function start(what: Export): Promise<void> {
    if (job.value) return said('Another export is running. Wait for it, or cancel it.')
    stop = new AbortController()
    const { signal } = stop
    const called = fileName(what)
    job.value = { ...what, done: 0, of: 0, began: performance.now() }
    const [{ make, why }, { beginWriting, clearFiles }, { turn }] = await Promise.all([
      import('@/export/making'),
      import('@/export/files'),
      import('@/export/turn'),
    ])
    try {
      const project = (await core.ask('project', null)).result as Project | undefined
      if (!project) throw new Error('the project could not be read. Try again')
      await clearFiles()
      const file = await beginWriting()
      try {
        const done = (count: number, of: number): void => void (job.value = { ...(job.value as Job), done: count, of })
        await make(project, doc.catalogue, what, file, { done, turn, signal })
        give(called, await file.finish(), 60_000)
      } catch (error) {
        await file.drop()
        throw error
      }
      said(`Exported ${called}.`)
    } catch (error) {
      if (signal.aborted) said('The export was cancelled.')
      else tell(new Error(`Can’t export ${what.name}: ${why(error)}`))
    } finally {
      job.value = null
    }
  }

  // Whoever closes the page is asked first.
  window.addEventListener('beforeunload', (event) => job.value && event.preventDefault())
  /** What of the composition a format can't hold. */
  const lacks = async (format: string) => (await core.ask('lacks', format)).result ?? []

  /** The formulas of the composition that give nothing at some frame. */
  const failing = async () => (await core.ask('failing', null)).result ?? []

  return { job, percent, left, start, cancel: () => stop.abort(), lacks, failing }
})
