import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, triggerRef } from 'vue'
import { core, unloaded, type Acting, type Answer } from '@/core/client'
import { valuesOf } from '@/core/values'
import type {
  OwnBefore,
  OwnRecipe,
  Catalogue,
  Changed,
  ControlSet,
  Edit,
  Frame,
  GestureName,
  Gestures,
  Id,
  Methods,
  Operation,
  PinAt,
  Project,
  Ref,
  View,
} from '@/core/types'
import { message, report, said, sentence, tell } from '@/composables/notify'
import { usePosingStop } from './posing'
import { useReadouts } from '@/composables/readouts'
import { Broken } from '@/composables/recovery'
import { moved } from '@/composables/steps'
import { openToScripts } from '@/composables/scripts'
import { Unreachable } from '@/net/api'
import { useOpening, type Early } from './document/opening'
import { PastSteps } from './document/pastSteps'
import { useStructure } from './document/structure'
import { useSurvey } from './document/survey'
import { usePlayback } from './playback'

/** Gestures that take something away: what they say offers to take that back. */
const removes = new Set<GestureName>(['remove', 'remove controls', 'move pins', 'stretch pins', 'insert time'])

/** The project that is open, as the core describes it, and the way to change it. */
export const useDocument = defineStore('document', () => {
  const playback = usePlayback()
  const posing = usePosingStop()
  const name = ref('')
  const revision = ref(0)
  /** States of its compositions that are kept. */
  const befores = shallowRef<OwnBefore[]>([])
  /** The recipes of the project. */
  const recipes = shallowRef<OwnRecipe[]>([])
  /** The sets of controls of the project. */
  const sets = shallowRef<ControlSet[]>([])
  const compositionId = ref<Id>('')
  /** Driven properties that are shown at another value for the time being. */
  const poses = shallowRef<Ref[]>([])
  const texts = shallowRef<string[]>([])
  /** How many steps were tried out, which are not kept yet; null while nothing is tried out. */
  const tried = ref<number | null>(null)
  const canUndo = ref(false)
  /** The last change that can be undone, and the revision: another one after each change, of whatever window. */
  const stands = ref('')
  const canRedo = ref(false)
  const catalogue = shallowRef<Catalogue>({
    kinds: [],
    controls: [],
    formats: [],
    links: [],
    functions: [],
    names: [],
    operators: [],
    words: [],
    recipes: [],
    easings: [],
    longest: 0,
    largestTable: 0,
    largestModel: 0,
    copies: { usual: 0, most: 0 },
  })
  const values = shallowRef<Float64Array>(new Float64Array())
  /** Whether a frame of the project is shown: one of an empty composition holds no values. */
  const shown = ref(false)
  const readouts = useReadouts()
  const structure = useStructure(catalogue, values, readouts.values)
  const { compositions } = structure.read
  const composition = computed(() => compositions.value.find((c) => c.id === compositionId.value))
  const survey = useSurvey()
  const past = new PastSteps()
  const opening = useOpening({ catalogue, compositions, composition: compositionId, revision, absorb, paint, take, act, clear, past })
  const painters = new Set<(frame: Frame) => void>()
  /** Grows with what the core answers, for those who ask it for more: at once after a change, now and then while something is dragged. */
  const rested = ref(0)
  const restSoon = useDebounceFn(() => rested.value++, 120, { maxWait: 500 })
  /** The pins that a gesture made for the time being has in the hand. */
  const inHand = shallowRef<PinAt[] | null>(null)
  /** Whether pins are being dragged. */
  const moving = computed(() => inHand.value !== null)
  let previewing = false

  // ---- taking in what the core answers

  function absorb(view: View, opened?: Project): void {
    if (view.composition !== compositionId.value) structure.clear()
    if (previewing) void restSoon()
    else rested.value++
    name.value = view.name
    revision.value = view.revision
    if (JSON.stringify(view.recipes) !== JSON.stringify(recipes.value)) recipes.value = view.recipes
    if (JSON.stringify(view.sets ?? []) !== JSON.stringify(sets.value)) sets.value = view.sets ?? []
    if (JSON.stringify(view.befores ?? []) !== JSON.stringify(befores.value)) befores.value = view.befores ?? []
    if (view.waiting && opening.read.saveState.value === 'saved') opening.read.saveState.value = 'saving'
    if (view.poses.length || poses.value.length) poses.value = view.poses
    tried.value = view.trying ? view.tried : null
    canUndo.value = view.canUndo
    stands.value = `${view.revision}/${view.lastUndo ?? ''}`
    canRedo.value = view.canRedo
    past.note(view)
    if (view.texts) texts.value = view.texts
    structure.take(view, opened)
    if (view.links) void survey.soon()
    if (view.composition !== compositionId.value) playback.range = null
    compositionId.value = view.composition
    playback.limit(composition.value?.frames ?? 1, composition.value?.rate ?? 25)
  }

  function clear(): void {
    structure.clear()
    survey.clear()
    past.clear()
    values.value = new Float64Array()
    shown.value = false
    compositionId.value = ''
  }

  function paint(frame: Frame | null): void {
    if (!frame) return
    shown.value = true
    if (frame.texts) texts.value = [...texts.value, ...frame.texts]
    values.value = valuesOf(frame, values.value)
    if (frame.slots?.length) triggerRef(values)
    for (const painter of painters) painter(frame)
    readouts.refresh()
  }

  let asked: Promise<unknown> = Promise.resolve()

  /** When all that was asked for so far is shown. */
  const answered = (): Promise<unknown> => asked.catch(() => undefined)

  /** Makes a call of the core that may change the document, and shows what came of it. */
  async function act<M extends Acting>(method: M, argument: Methods[M]['argument'], mends = false): Promise<Changed | undefined> {
    const answer = core.act(method, argument, playback.frame, mends)
    asked = answer
    return take(await answer, mends)
  }

  function take(answer: Answer<Changed> & { frame: Frame | null }, mends: boolean, opened?: Project, early?: Early): Changed | undefined {
    inHand.value = (previewing && answer.result?.pins) || null
    if (answer.broken) {
      if (mends) throw answer.broken === unloaded ? new Unreachable() : new Broken(answer.broken)
      return undefined // which is said where it is mended
    }
    const told = early && JSON.stringify(early.view) === JSON.stringify(answer.result?.view) // what is shown already
    if (answer.result && !told) absorb(answer.result.view, opened)
    if (!told || !early.painted) paint(answer.frame)
    if (answer.error) throw new Error(answer.error)
    for (const lost of answer.result?.dropped ?? []) message.warning(lost, { duration: 10000, closable: true })
    return answer.result
  }

  // ---- gestures

  /** What the gesture that is made for the time being has to say. */
  const previewed = ref('')
  let queued: { gesture: GestureName; with: unknown; refused: (error: unknown) => void } | null = null

  /** Whoever takes what hands set, in place of the document, for a while. */
  interface Diverted {
    takes: (using: Gestures['set'], last: boolean) => boolean
    /** Shows the frame of the playhead with what hands set in it, where they do. */
    shows: () => Promise<void> | null
    /** What has to be done before a composition is left. */
    leaving: () => Promise<void>
  }
  let diverted: Diverted | null = null
  const divert = (to: typeof diverted): void => void (diverted = to)

  /** Makes a gesture for the time being: the next one takes its place. Why one can't be made is told, or shown where it was made. */
  async function preview<G extends GestureName>(gesture: G, using: Gestures[G], refused: (error: unknown) => void = tell): Promise<void> {
    if (gesture === 'set' && diverted?.takes(using as Gestures['set'], false)) return
    queued = { gesture, with: using, refused }
    if (previewing) return
    previewing = true
    while (queued) {
      const { refused, ...next }: NonNullable<typeof queued> = queued
      queued = null
      try {
        const asked = { ...next, frame: playback.frame, preview: true, pin: playback.autoPin, posing: posing.at ?? undefined }
        previewed.value = (await act('do', asked))?.note ?? ''
      } catch (error) {
        refused(error)
      }
    }
    previewing = false
  }

  /** Takes back the gesture that was made for the time being. */
  async function cancelPreview(): Promise<void> {
    queued = null
    await act('cancel', null)
  }

  /** Makes a gesture for good, as one step that can be undone. Errors are told to the user. */
  async function gesture<G extends GestureName>(what: G, using: Gestures[G]): Promise<Changed | undefined> {
    if (what === 'set' && diverted?.takes(using as Gestures['set'], true)) return undefined
    queued = null
    if (what === 'move') moved((using as Gestures['move']).items, (using as Gestures['move']).by) // at once, for who is faster than the answer
    try {
      const answer = await act('do', {
        gesture: what,
        with: using,
        frame: playback.frame,
        preview: false,
        id: crypto.randomUUID(),
        pin: playback.autoPin,
        posing: posing.at ?? undefined,
      })
      if (answer?.details?.length) report(answer.note ?? '', answer.details)
      else if (answer?.note && !answer.asks) said(sentence(answer.note), removes.has(what) ? () => void back('undo') : undefined)
      opening.save()
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
      opening.save()
    } catch (error) {
      tell(error)
    }
  }

  /** Evaluates a frame and shows it. */
  async function show(frame: number): Promise<void> {
    const shown = diverted?.shows()
    if (shown) return shown
    paint((await core.frame(frame)).frame)
  }
  playback.shownBy(show)

  /** A frame apart from what is shown. */
  async function reading(at: number): Promise<Frame | null> {
    const { frame } = await core.read(at)
    if (frame?.texts) texts.value = [...texts.value, ...frame.texts]
    return frame
  }
  openToScripts(reading, structure.places, () => texts.value)

  return {
    ...structure.read,
    ...survey.read,
    ...opening.read,
    name,
    recipes,
    sets,
    befores,
    composition,
    compositionId,
    poses,
    texts,
    tried,
    canUndo,
    stands,
    previewed,
    inHand,
    moving,
    divert,
    canRedo,
    catalogue,
    values,
    shown,
    rested,
    painters,
    watchDerived: readouts.watch,
    preview,
    cancelPreview,
    gesture,
    operations,
    here,
    open: opening.open,
    close: opening.close,
    show,
    answered,
    undo: () => back('undo'),
    redo: () => back('redo'),
    tryOut: (on: boolean) => act('try out', on).catch(tell),
    async keepTried(): Promise<void> {
      await act('keep tried', crypto.randomUUID()).catch(tell)
      opening.save()
    },
    select: async (id: Id) => {
      await diverted?.leaving()
      return act('select', id).catch(tell)
    },
  }
})
