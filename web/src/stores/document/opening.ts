import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef, type Ref as Reactive, type ShallowRef } from 'vue'
import { core, unloaded, type Acting, type Answer } from '@/core/client'
import type { Catalogue, Change, Changed, Composition, Frame, Id, Methods, Project, SceneComposition, View } from '@/core/types'
import { message, report, sentence } from '@/composables/notify'
import { useRecovery } from '@/composables/recovery'
import { api, Problem, readFirst, type Loaded, type Told } from '@/net/api'
import { Saver, type SaveState } from '@/net/saver'
import { keepUnsent, takeUnsent } from '@/net/unsent'
import { usePlayback } from '../playback'
import type { PastSteps } from './pastSteps'

/** Raised where the core could not be had. */
class Unloaded extends Error {
  constructor() {
    super("The application couldn't be loaded; check that the server is running, and reload the page")
  }
}

/** What is shown of a project before the core has opened it. */
export interface Early {
  view: View
  /** Whether its first frame is shown, too. */
  painted: boolean
}

/** What of the document the opening of a project needs. */
export interface Opened {
  catalogue: ShallowRef<Catalogue>
  compositions: ShallowRef<Composition[]>
  composition: Reactive<Id>
  revision: Reactive<number>
  absorb(view: View, opened?: Project): void
  paint(frame: Frame | null): void
  take(answer: Answer<Changed> & { frame: Frame | null }, mends: boolean, opened?: Project, early?: Early): Changed | undefined
  act<M extends Acting>(method: M, argument: Methods[M]['argument'], mends?: boolean): Promise<Changed | undefined>
  clear(): void
  past: PastSteps
}

/** Opens projects, saves what is done to them, and mends them where the core breaks. */
export function useOpening(doc: Opened) {
  const playback = usePlayback()
  const status = ref<'idle' | 'loading' | 'ready' | 'failed'>('idle')
  const failure = ref('')
  const project = ref<Id>('')
  const saveState = ref<SaveState>('saved')
  const saveDetail = ref('')
  /** A reading of what was handed off as it was here, where the server has another one since a backup was restored. */
  const leftOver = shallowRef<SceneComposition | null>(null)
  let saver: Saver | null = null
  let history = ''

  function fail(text: string): void {
    status.value = 'failed'
    failure.value = text
  }

  /**
   * Opens the project as the server has it, and makes what the server does not have yet again on top of it. What the server says of it is
   * shown while the core is made ready. Nothing comes of it where another project is opened meanwhile.
   */
  async function load(unsent: Change[], mends = false, loading?: Promise<Loaded>, quiet = false): Promise<void> {
    const id = project.value
    const { revision: at, history: of, project: read, view, first, bytes, healed } = await (loading ?? api.load(id))
    const known = unsent.length
      ? await api.known(
          id,
          unsent.map((c) => c.id),
        )
      : {}
    if (id !== project.value) return
    history = of
    const missing = unsent.filter((c) => !((known[c.id] ?? Infinity) <= at))
    const opening = core.open(bytes, missing, playback.frame, mends)
    const early: Early | undefined =
      mends || quiet || missing.length || !view ? undefined : { view, painted: first?.frame === playback.frame }
    if (early) {
      doc.absorb(early.view, read)
      if (early.painted) doc.paint(first)
    }
    const answer = await opening
    if (id !== project.value) return
    if (answer.broken && !mends)
      throw answer.broken === unloaded ? new Unloaded() : new Error(`This project can't be opened: ${answer.broken}`)
    doc.take(answer, mends, read, early)
    if (healed?.length) report('What an earlier version left behind in this project was mended', healed)
  }

  let before = doc.past.copy()
  const recovery = useRecovery({
    project,
    async recall() {
      const { undo, redo } = before
      if (undo.length + redo.length)
        await doc.act('recall', { undo, redo, known: await api.steps(project.value, [...undo, ...redo]) }, true)
    },
    async open(unsent) {
      before = doc.past.copy()
      const at = doc.composition.value
      await load(unsent, true)
      if (at !== doc.composition.value && doc.compositions.value.some((c) => c.id === at)) await doc.act('select', at, true)
    },
    waits: (why) => {
      saveState.value = 'retrying'
      saveDetail.value = why
    },
    done: () => saver?.pump(),
    failed: fail,
  })

  async function open(id: Id): Promise<void> {
    close()
    status.value = 'loading'
    project.value = id
    playback.seek(0)
    try {
      const loading = api.load(id)
      const [all, unsent] = await Promise.all([api.catalogue(), takeUnsent(id), loading])
      if (id !== project.value) return
      doc.catalogue.value = all
      await load(unsent, false, loading).catch((error: unknown) => {
        if (error instanceof Unloaded) return load(unsent) // it was asked for early, when the server could not be reached
        throw error
      })
      if (id === project.value) follow(id)
    } catch (error) {
      if (id === project.value) fail(error instanceof Error ? sentence(error.message) : String(error))
    }
  }

  /** Saves what is done from now on, and follows what others do. */
  function follow(id: Id): void {
    core.onBroken(recovery.mend)
    status.value = 'ready'
    saver = new Saver({
      project: id,
      history,
      revision: () => doc.revision.value,
      receive: async (changes) => {
        const told: Change[] = changes.map(({ rig: _, ...change }: Told) => change)
        const answer = await doc.act('receive', told).catch(() => undefined)
        if (changes.some((c: Told) => c.rig)) void again()
        return answer
      },
      reload: async (without, reason) => {
        const waiting = (await core.ask('waiting', null)).result ?? []
        await load(waiting.filter((c) => c.id !== without))
        message.error(`A change could not be saved and was taken back. ${sentence(reason)}`, { duration: 12000, closable: true })
      },
      state: (s, detail) => {
        saveState.value = s
        saveDetail.value = detail ?? ''
      },
      gone: fail,
      parted: part,
    })
    saver.start()
  }

  /** What is inside of what was handed off changed: it is opened anew, with what is not saved yet. */
  const again = useDebounceFn(
    async () => {
      readFirst(doc.composition.value)
      await load((await core.ask('waiting', null)).result ?? [], false, undefined, true).catch((error: unknown) => {
        if (error instanceof Problem && error.status === 404) fail(error.message)
      })
    },
    300,
    { maxWait: 2000 },
  )

  /** A backup took the place of what this page works on: what is not saved is kept as a project of its own, and this one opened anew. */
  async function part(): Promise<void> {
    const id = project.value
    const unsent = (await core.ask('waiting', null)).result ?? []
    let kept = ''
    const whole = (await core.ask('project', null)).result
    if (id.startsWith('~')) {
      leftOver.value = whole?.compositions?.find((c) => c.id === doc.composition.value) ?? null
      await keepUnsent(id, [])
    }
    if (unsent.length && !id.startsWith('~')) {
      if (whole) {
        const name = `${whole.name.slice(0, 160)} (before a backup was restored)`
        kept = ` What you had here, with ${unsent.length === 1 ? '1 change' : `${unsent.length} changes`} that weren’t saved, is kept as “${name}”.`
        await api.adopt({ ...whole, name })
      }
      await keepUnsent(id, [])
    }
    message.warning(`A backup was restored on the server, so this project was opened again as it is there.${kept}`, {
      duration: 0,
      closable: true,
    })
    await open(id)
  }

  function close(): void {
    playback.pause()
    core.onBroken(null)
    saver?.stop()
    saver = null
    doc.clear()
    project.value = ''
    status.value = 'idle'
  }

  return { read: { status, failure, project, saveState, saveDetail, leftOver }, open, close, save: () => void saver?.pump() }
}
