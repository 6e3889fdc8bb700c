import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef, toRaw, triggerRef } from 'vue'
import { core, unloaded, type Acting, type Answer } from '@/core/client'
import type {
  Catalogue,
  Change,
  Changed,
  Check,
  Composition,
  Edit,
  Frame,
  GestureName,
  Gestures,
  Id,
  Item,
  Methods,
  Operation,
  Ref,
  Spec,
  RosterLink,
  State,
  Project,
  Structure,
  View,
} from '@/core/types'
import { message, report, sentence, tell } from '@/composables/notify'
import { useReadouts } from '@/composables/readouts'
import { Broken, useRecovery } from '@/composables/recovery'
import { openToScripts } from '@/composables/scripts'
import { api, Unreachable, type Loaded } from '@/net/api'
import { Saver, type SaveState } from '@/net/saver'
import { takeUnsent } from '@/net/unsent'
import { usePlayback } from './playback'

/** Raised where the core could not be had. */
class Unloaded extends Error {
  constructor() {
    super('The core of the application could not be loaded; see that the server runs, and load the page anew')
  }
}

const emptyState: State = { own: null }

/** The project that is open, as the core describes it, and the way to change it. */
export const useDocument = defineStore('document', () => {
  const playback = usePlayback()
  const status = ref<'idle' | 'loading' | 'ready' | 'failed'>('idle')
  const failure = ref('')
  const project = ref<Id>('')
  const name = ref('')
  const revision = ref(0)
  const compositions = shallowRef<Composition[]>([])
  const compositionId = ref<Id>('')
  const items = shallowReactive(new Map<Id, Item>())
  const order = shallowRef<Id[]>([])
  const depths = shallowRef<number[]>([])
  const base = shallowRef(new Map<Id, number>())
  const world = ref(0)
  const stride = ref(13)
  const hidden = shallowRef(new Set<Id>())
  const out = shallowRef(new Set<Id>())
  const readouts = useReadouts()
  const drives = shallowRef<Record<string, number>>({})
  /** The items that each property drives directly, by "item/property". */
  const followers = shallowRef<Record<string, Id[] | null>>({})
  const checks = shallowRef<Check[]>([])
  /** Driven properties that are shown at another value for the time being. */
  const poses = shallowRef<Ref[]>([])
  const texts = shallowRef<string[]>([])
  /** The texts of formulas, by "item/link" or the id of a link on a roster. */
  const formulas = shallowRef<Record<string, string>>({})
  /** The links on rosters. */
  const spreads = shallowRef<RosterLink[]>([])
  const canUndo = ref(false)
  const canRedo = ref(false)
  const saveState = ref<SaveState>('saved')
  const saveDetail = ref('')
  const catalogue = shallowRef<Catalogue>({ kinds: [], links: [], functions: [], names: [] })
  const values = shallowRef(new Float64Array())
  /** Grows with every change of what stands where, for those who keep something by index. */
  const layout = ref(0)
  /** Grows with what the core answers, for those who ask it for more: at once after a change, now and then while something is dragged. */
  const rested = ref(0)
  const restSoon = useDebounceFn(() => rested.value++, 120, { maxWait: 500 })

  /** Grows when an item gets its first control, or loses its last. */
  const gathered = ref(0)
  /** The items with controls, in the order of the tree. */
  const controlled = computed(() => {
    void layout.value
    void gathered.value
    return order.value.filter((id) => toRaw(items).get(id)?.controls?.length)
  })
  /** The nulls, in the order of the tree. */
  const nulls = computed(() => {
    void layout.value
    return order.value.filter((id) => toRaw(items).get(id)?.kind === 'null')
  })
  /** Where each item stands in the tree, by id. */
  const indexes = computed(() => new Map(order.value.map((id, i) => [id, i])))
  const composition = computed(() => compositions.value.find((c) => c.id === compositionId.value))
  const painters = new Set<(frame: Frame) => void>()
  let saver: Saver | null = null
  let previewing = false

  // ---- reading

  const kinds = computed(() => new Map(catalogue.value.kinds.map((k) => [k.kind, k])))

  /** Every property of an item: of its kind, its controls, what can be read of it. */
  function specsOf(item: Item): Spec[] {
    const kind = kinds.value.get(item.kind)
    const own = item.specs ?? []
    const specs = (kind?.specs ?? []).map((s) => limited(s, item.states?.[s.key]))
    return [...specs, ...own, ...(kind?.readable ?? []).filter((r) => !own.some((s) => s.key === r.key))]
  }

  /** A property within the limits that the designer set on this item. */
  function limited(s: Spec, state: State | undefined): Spec {
    if (state?.min === undefined && state?.max === undefined) return s
    return { ...s, min: Math.max(state.min ?? -Infinity, s.min ?? -Infinity), max: Math.min(state.max ?? Infinity, s.max ?? Infinity) }
  }

  function spec(item: Id, property: string): Spec | undefined {
    const it = items.get(item)
    return it && specsOf(it).find((s) => s.key === property)
  }

  function state(item: Id, property: string): State {
    return items.get(item)?.states?.[property] ?? emptyState
  }

  /** The numbers of a property at this frame; of a text, its place in texts. */
  function numbers(item: Id, s: Spec): number[] {
    if (s.offset < 0) return readouts.values.get(item + '/' + s.key) ?? Array<number>(s.parts?.length ?? 1).fill(0)
    const from = (base.value.get(item) ?? 0) + s.offset
    return Array.from(values.value.subarray(from, from + (s.parts?.length ?? 1)))
  }

  /** The links on rosters that drive a property of an item. */
  const spreadsOn = (item: Id, property: string): RosterLink[] =>
    spreads.value.filter(
      (s) =>
        (s.property === property || s.roster.kind === 'vertices') && s.members?.some((m) => m.item === item && m.property === property),
    )

  function nameOf(r: Ref): string {
    const part = r.component ? '.' + r.component : ''
    return `${items.get(r.item)?.name ?? 'something removed'}: ${spec(r.item, r.property)?.name ?? 'removed'}${part}`
  }

  // ---- taking in what the core answers

  function absorbStructure(s: Structure): void {
    order.value = s.order ?? []
    depths.value = s.depths ?? []
    base.value = new Map(order.value.map((id, i) => [id, s.base[i] as number]))
    const present = new Set(order.value)
    for (const id of items.keys()) if (!present.has(id)) items.delete(id)
    world.value = s.world
    stride.value = s.stride
    hidden.value = new Set(order.value.filter((_, i) => s.hidden[i]))
    out.value = new Set(order.value.filter((_, i) => s.out[i]))
    spreads.value = s.spreads ?? []
    layout.value++
  }

  /** Takes the items from the project as the server sent it, with what the core worked out of them. */
  function takeOpened(view: View, opened: Project): void {
    const specs = new Map((view.specs ?? []).map((s) => [s.item, s.specs]))
    for (const { path, ...item } of opened.compositions.find((c) => c.id === view.composition)?.items ?? []) {
      items.set(item.id, {
        ...item,
        ...(path && { path: true, evenOdd: path.evenOdd }),
        ...(specs.has(item.id) && { specs: specs.get(item.id) }),
      })
    }
    gathered.value++
  }

  function absorb(view: View, opened?: Project): void {
    if (view.composition !== compositionId.value) items.clear()
    if (view.known && opened) takeOpened(view, opened)
    if (previewing) void restSoon()
    else rested.value++
    name.value = view.name
    revision.value = view.revision
    if (JSON.stringify(view.compositions) !== JSON.stringify(compositions.value)) compositions.value = view.compositions
    if (view.waiting && saveState.value === 'saved') saveState.value = 'saving'
    if (view.poses?.length || poses.value.length) poses.value = view.poses ?? []
    canUndo.value = view.canUndo
    canRedo.value = view.canRedo
    if (view.texts) texts.value = view.texts
    for (const item of view.items) {
      const was = items.get(item.id)
      if (was && JSON.stringify([was.frames, was.stops]) !== JSON.stringify([item.frames, item.stops])) layout.value++
      if (!was?.controls?.length !== !item.controls?.length) gathered.value++
      items.set(item.id, item)
    }
    for (const { item, property, state } of view.states ?? []) {
      const was = items.get(item)
      if (!was) continue
      const { [property]: _, ...rest } = was.states ?? {}
      items.set(item, { ...was, states: state ? { ...rest, [property]: state } : rest })
    }
    if (view.structure) absorbStructure(view.structure)
    if (view.links) surveySoon()
    compositionId.value = view.composition
    playback.limit(composition.value?.frames ?? 1, composition.value?.rate ?? 25)
  }

  /** Counts what drives what, and looks for what is wrong: behind the picture, not before it. */
  const surveySoon = useDebounceFn(async () => {
    const { result } = await core.ask('survey', null)
    if (!result) return
    drives.value = result.drives
    followers.value = result.followers
    checks.value = result.checks
    formulas.value = result.formulas
  }, 60)

  function paint(frame: Frame | null): void {
    if (!frame) return
    if (frame.texts) texts.value = [...texts.value, ...frame.texts]
    if (frame.slots) {
      const { slots, values: changed } = frame
      const all = values.value
      for (let k = 0; k < slots.length; k++) all[slots[k] as number] = changed[k] as number
      if (slots.length) triggerRef(values)
    } else values.value = frame.values
    for (const painter of painters) painter(frame)
    readouts.refresh()
  }

  /** Makes a call of the core that may change the document, and shows what came of it. */
  const act = async <M extends Acting>(method: M, argument: Methods[M]['argument'], mends = false): Promise<Changed | undefined> =>
    take(await core.act(method, argument, playback.frame, mends), mends)

  function take(answer: Answer<Changed> & { frame: Frame | null }, mends: boolean, opened?: Project, early?: View): Changed | undefined {
    if (answer.broken) {
      if (mends) throw answer.broken === unloaded ? new Unreachable() : new Broken(answer.broken)
      return undefined // which is said where it is mended
    }
    if (answer.result && JSON.stringify(answer.result.view) !== JSON.stringify(early)) absorb(answer.result.view, opened)
    paint(answer.frame)
    if (answer.error) throw new Error(answer.error)
    for (const lost of answer.result?.dropped ?? []) message.warning(lost, { duration: 10000, closable: true })
    return answer.result
  }

  // ---- gestures

  let queued: { gesture: GestureName; with: unknown } | null = null

  /** Makes a gesture for the time being: the next one takes its place. The latest wins. */
  async function preview<G extends GestureName>(gesture: G, using: Gestures[G]): Promise<void> {
    queued = { gesture, with: using }
    if (previewing) return
    previewing = true
    try {
      while (queued) {
        const next: NonNullable<typeof queued> = queued
        queued = null
        await act('do', { ...next, frame: playback.frame, preview: true })
      }
    } catch (error) {
      tell(error)
    } finally {
      previewing = false
    }
  }

  /** Takes back the gesture that was made for the time being. */
  async function cancelPreview(): Promise<void> {
    queued = null
    await act('cancel', null)
  }

  /** Makes a gesture for good, as one step that can be undone. Errors are told to the user. */
  async function gesture<G extends GestureName>(what: G, using: Gestures[G]): Promise<Changed | undefined> {
    queued = null
    try {
      const answer = await act('do', { gesture: what, with: using, frame: playback.frame, preview: false, id: crypto.randomUUID() })
      if (answer?.details?.length) report(answer.note ?? '', answer.details)
      else if (answer?.note) message.info(sentence(answer.note), { duration: 6000 })
      void saver?.pump()
      return answer
    } catch (error) {
      tell(error)
      return undefined
    }
  }

  /** The operations, each on the composition that is shown where it does not say on which. */
  const here = (...ops: Edit[]): Operation[] => ops.map((op) => ({ composition: compositionId.value, ...op }) as Operation)
  const operations = (...ops: Edit[]) => gesture('operations', { ops: here(...ops) })

  async function back(method: 'undo' | 'redo'): Promise<void> {
    try {
      await act(method, crypto.randomUUID())
      void saver?.pump()
    } catch (error) {
      tell(error)
    }
  }

  // ---- opening and saving

  /**
   * Opens the project as the server has it, and makes what the server does not have yet again on top of it. What the server says of it is
   * shown while the core is made ready.
   */
  async function load(unsent: Change[], mends = false, loading?: Promise<Loaded>): Promise<void> {
    const { revision: at, project: document, view, bytes, healed } = await (loading ?? api.load(project.value))
    const known = unsent.length
      ? await api.known(
          project.value,
          unsent.map((c) => c.id),
        )
      : {}
    const missing = unsent.filter((c) => !((known[c.id] ?? Infinity) <= at))
    const opening = core.open(bytes, missing, playback.frame, mends)
    const early = mends || missing.length ? undefined : view
    if (early) absorb(early, document)
    const answer = await opening
    if (answer.broken && !mends)
      throw answer.broken === unloaded ? new Unloaded() : new Error(`The core breaks on this project: ${answer.broken}`)
    take(answer, mends, document, early)
    if (healed?.length) report('What an earlier version left behind in this project was mended', healed)
  }

  const recovery = useRecovery({
    project,
    async open(unsent) {
      const at = compositionId.value
      await load(unsent, true)
      if (at !== compositionId.value && compositions.value.some((c) => c.id === at)) await act('select', at, true)
    },
    waits: (why) => {
      saveState.value = 'retrying'
      saveDetail.value = why
    },
    done: () => saver?.pump(),
    failed: (text) => {
      status.value = 'failed'
      failure.value = text
    },
  })

  async function open(id: Id): Promise<void> {
    close()
    status.value = 'loading'
    project.value = id
    playback.seek(0)
    try {
      const loading = api.load(id) // while the core is made ready
      const [all, unsent] = await Promise.all([api.catalogue(), takeUnsent(id), loading])
      catalogue.value = all
      await load(unsent, false, loading).catch((error: unknown) => {
        if (error instanceof Unloaded) return load(unsent) // it was asked for early, when the server could not be reached
        throw error
      })
      core.onBroken(recovery.mend)
      status.value = 'ready'
      saver = new Saver({
        project: id,
        revision: () => revision.value,
        receive: (changes) => act('receive', changes).catch(() => undefined),
        reload: async (without, reason) => {
          const waiting = (await core.ask('waiting', null)).result ?? []
          await load(waiting.filter((c) => c.id !== without))
          message.error(`A change could not be saved and was taken back. ${sentence(reason)}`, { duration: 12000, closable: true })
        },
        state: (s, detail) => {
          saveState.value = s
          saveDetail.value = detail ?? ''
        },
        gone: (text) => {
          status.value = 'failed'
          failure.value = text
        },
      })
      saver.start()
    } catch (error) {
      status.value = 'failed'
      failure.value = error instanceof Error ? sentence(error.message) : String(error)
    }
  }

  function close(): void {
    playback.pause()
    core.onBroken(null)
    saver?.stop()
    saver = null
    items.clear()
    order.value = []
    values.value = new Float64Array()
    compositionId.value = ''
    status.value = 'idle'
  }

  /** Evaluates a frame and shows it. */
  async function show(frame: number): Promise<void> {
    paint((await core.frame(frame)).frame)
  }
  playback.shownBy(show)

  /** A frame apart from what is shown. */
  async function reading(at: number): Promise<Frame | null> {
    const { frame } = await core.read(at)
    if (frame?.texts) texts.value = [...texts.value, ...frame.texts]
    return frame
  }
  openToScripts(reading, () => texts.value)

  return {
    status,
    failure,
    project,
    name,
    compositions,
    composition,
    compositionId,
    items,
    order,
    controlled,
    nulls,
    followers,
    indexes,
    depths,
    base,
    world,
    stride,
    hidden,
    out,
    kinds,
    drives,
    checks,
    poses,
    texts,
    formulas,
    spreads,
    spreadsOn,
    canUndo,
    canRedo,
    saveState,
    saveDetail,
    catalogue,
    values,
    layout,
    rested,
    painters,
    specsOf,
    spec,
    state,
    numbers,
    nameOf,
    watchDerived: readouts.watch,
    preview,
    cancelPreview,
    gesture,
    operations,
    here,
    open,
    close,
    show,
    undo: () => back('undo'),
    redo: () => back('redo'),
    tryOut: (on: boolean) => act('try out', on).catch(tell),
    select: (id: Id) => act('select', id).catch(tell),
  }
})
