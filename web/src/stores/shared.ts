import { useTimeoutFn, until } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { fetched } from '@/composables/download'
import { said, tell } from '@/composables/notify'
import { fileName, type Export } from '@/export/asked'
import { api, type SharedExport } from '@/net/api'
import { useDocument } from './document'

const pause = 700 // ms from one look at what is made to the next
const patience = 15_000 // ms that changes are given to reach the server

/** Exports that the server makes, with all who work for it: they go on when this page is closed. */
export const useShared = defineStore('shared', () => {
  const doc = useDocument()
  const able = ref(false)
  const all = ref<SharedExport[]>([])
  const busy = computed(() => all.value.find((e) => e.state === 'making' || e.state === 'waiting'))
  const fetchFile = (e: SharedExport): void => fetched(e.name, api.exportFile(e.id))

  const { start: later, stop: never } = useTimeoutFn(() => void look(), pause, { immediate: false })
  async function look(): Promise<void> {
    never()
    const project = doc.project
    if (!project || project.startsWith('~')) return // to whom it was handed off, the server makes nothing
    const before = new Map(all.value.map((e) => [e.id, e.state]))
    try {
      const told = await api.exports(project)
      if (doc.project !== project) return // another one is open by now
      able.value = told.able
      all.value = told.exports
    } catch {
      if (busy.value) later() // what is wrong with the connection is said elsewhere
      return
    }
    for (const e of all.value) {
      if (e.state === before.get(e.id) || !before.has(e.id)) continue
      if (e.state === 'ready') said(`${e.name} is ready.`, () => fetchFile(e), 'Download')
      if (e.state === 'failed') tell(new Error(`Can’t export ${e.name}: ${e.error ?? 'the server didn’t say why'}`))
    }
    if (busy.value) later()
  }
  watch(
    () => doc.project,
    () => {
      all.value = []
      void look()
    },
    { immediate: true },
  )

  /** Has the server export the project, once all that was done is there. */
  async function start({ format, name, ...what }: Export): Promise<void> {
    try {
      await until(() => doc.saveState)
        .toBe('saved', { timeout: patience, throwOnTimeout: true })
        .catch(() => {
          throw new Error('The changes of this page haven’t reached the server yet. Wait until it says “Saved”, and export again.')
        })
      await api.beginExport(doc.project, {
        id: crypto.randomUUID(),
        asked: { ...what, format: format.key },
        name: fileName({ format, name, from: what.from }),
      })
    } catch (error) {
      tell(error)
    }
    await look()
  }

  /** Cancels an export, or removes its file. */
  async function drop(e: SharedExport): Promise<void> {
    await api.dropExport(e.id).catch(tell)
    await look()
  }

  return { able, all, busy, look, start, drop, fetchFile }
})
