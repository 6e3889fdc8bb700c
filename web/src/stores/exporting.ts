import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { core } from '@/core/client'
import { give } from '@/composables/download'
import { said, tell } from '@/composables/notify'
import type { Format, Id, Project } from '@/core/types'
import type { Blur } from '@/export/pictures'
import type { Writer } from '@/export/writers'
import { useDocument } from './document'

/** What is exported, and how. */
export interface Export {
  format: Format
  composition: Id
  width: number
  height: number
  /** The first and the last frame. */
  from: number
  to: number
  /** Without the background. */
  clear: boolean
  blur?: Blur
}

interface Job extends Export {
  name: string
  done: number
  began: number
}

/** Exports: one at a time, while one goes on working. */
export const useExporting = defineStore('exporting', () => {
  const doc = useDocument()
  const job = shallowRef<Job | null>(null)
  let cancelled = false
  let drawing: { stop: () => void } | null = null
  const of = computed(() => (job.value ? job.value.to - job.value.from + 1 : 0))
  /** How many seconds it will take yet, as far as that can be told. */
  const left = computed(() => {
    const { done = 0, began = 0 } = job.value ?? {}
    return done < 2 ? null : ((performance.now() - began) / 1000 / done) * (of.value - done)
  })

  /** Exports the project as it is now; what is changed meanwhile is not in it. */
  async function start(what: Export): Promise<void> {
    if (job.value) return said('Another export is running. Wait for it, or cancel it.')
    cancelled = false
    const name = doc.compositions.find((c) => c.id === what.composition)?.name ?? 'Composition'
    job.value = { ...what, name, done: 0, began: performance.now() }
    try {
      const file = await made(job.value)
      const called = `${name}.${what.format.extension}`
      give(called, file, 60_000)
      said(`Exported ${called}.`)
    } catch (error) {
      if (cancelled) said('The export was cancelled.')
      else tell(new Error(`Can’t export ${name}: ${why(error)}`))
    } finally {
      job.value = null
    }
  }

  function why(error: unknown): string {
    if (error instanceof DOMException && error.name === 'QuotaExceededError')
      return 'the browser’s disk has no room for it. Make room, or export fewer frames or a smaller size.'
    return error instanceof Error ? error.message : String(error)
  }

  async function made(one: Job): Promise<Blob> {
    const project = (await core.ask('project', null)).result as Project | undefined
    if (!project) throw new Error('the project could not be read. Try again')
    const [{ Pictures }, { write }, { beginWriting, clearFiles }, { mixed }, { turn }] = await Promise.all([
      import('@/export/pictures'),
      import('@/export/writers'),
      import('@/export/files'),
      import('@/export/sounds'),
      import('@/export/turn'),
    ])
    await clearFiles()
    const pictures = await Pictures.open({ ...one, project }, doc.catalogue)
    drawing = pictures
    const file = await beginWriting()
    let writer: Writer | null = null
    try {
      const { rate } = pictures.composition
      const heard = one.format.sound ? pictures.heard : []
      const mix = heard.length ? await mixed(heard, rate) : null
      const { name, format } = one
      writer = await write({ canvas: pictures.canvas, to: file.stream, format, rate, name, last: one.to, sound: !!mix })
      for (let frame = one.from; frame <= one.to; frame++) {
        await pictures.draw(frame)
        await writer.add(frame - one.from, frame, mix?.(frame))
        job.value = { ...one, done: frame - one.from + 1 }
        await turn()
        if (cancelled) throw new Error('cancelled')
      }
      await writer.end()
      return await file.finish()
    } catch (error) {
      await writer?.drop().catch(() => undefined) // of what fell already
      await file.drop()
      throw error
    } finally {
      drawing = null
      pictures.close()
    }
  }

  function cancel(): void {
    cancelled = true
    drawing?.stop()
  }
  // Whoever closes the page is asked first.
  window.addEventListener('beforeunload', (event) => job.value && event.preventDefault())
  /** What of the composition a format can't hold. */
  const lacks = async (format: string) => (await core.ask('lacks', format)).result ?? []

  return { job, of, left, start, cancel, lacks }
})
