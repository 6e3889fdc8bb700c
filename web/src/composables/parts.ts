import { until } from '@vueuse/core'
import { fetched } from '@/composables/download'
import { report, tell, worded } from '@/composables/notify'
import type { Id, ProjectPart } from '@/core/types'
import { api } from '@/net/api'
import { useDocument } from '@/stores/document'

/** The ending of the name of a project file. */
export const extension = '.wunderkammer'

/** What a chooser offers for files of projects and of parts of them; parts were JSON once. */
export const projectFiles = `${extension},.json`

const patience = 15_000 // ms that changes are given to reach the server

/** Parts of a project as files: saved, and brought in from others. */
export function useParts() {
  const doc = useDocument()

  /** Saves a part, once all that was done has reached the server. */
  async function save(part: ProjectPart, id: Id, name: string): Promise<void> {
    try {
      await until(() => doc.saveState).toBe('saved', { timeout: patience, throwOnTimeout: true })
      fetched(name + extension, api.file(doc.project, part, id))
    } catch {
      tell(new Error('The changes of this page haven’t reached the server yet. Wait until it says “Saved”, and save the file again.'))
    }
  }

  /** Brings in what a file holds; the ids of what was added, compositions first. Why it can't be is thrown. */
  async function bring(file: File): Promise<Id[]> {
    const { project, part, notes } = await api.readPackage(file)
    const done = await doc.gesture('bring project', { value: project, part })
    if (done && notes?.length) report(`${file.name} was brought in. Not all of it is as it was`, notes)
    return done?.made ?? []
  }

  /** Lets a file be chosen, and brings it in. */
  const choose = (): Promise<Id[]> =>
    new Promise((resolve) => {
      const chooser = document.createElement('input')
      chooser.type = 'file'
      chooser.accept = projectFiles
      chooser.oncancel = () => resolve([])
      chooser.onchange = () => {
        const [file] = chooser.files ?? []
        if (file)
          bring(file).then(resolve, (error: unknown) => {
            tell(new Error(`Can’t bring in ${file.name}: ${worded(error)}`))
            resolve([])
          })
      }
      chooser.click()
    })

  return { save, bring, choose }
}
