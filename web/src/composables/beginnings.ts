import { createSharedComposable, useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useWorkspace } from '@/stores/workspace'
import type { Id } from '@/core/types'

/** A thing to do first, which is ticked off as soon as it is done, however that was. */
interface Step {
  text: string
  /** What helps with it: its name, and what it does. */
  act?: string
  does?: () => void
  done: boolean
}

/** The three ways to begin in an empty project: a few steps each, which tick themselves off. */
export const useBeginnings = createSharedComposable(() => {
  const doc = useDocument()
  const playback = usePlayback()
  const workspace = useWorkspace()
  const closed = useLocalStorage<string[]>('wunderkammer:first-steps-closed', [])
  const played = ref(false)
  watch(
    () => playback.playing,
    (on) => (played.value ||= on),
  )

  const items = computed(() => doc.order.flatMap((id) => doc.items.get(id) ?? []))
  const controls = computed(() =>
    doc.controlled.flatMap((id) => (doc.items.get(id)?.controls ?? []).map((c) => ({ id, control: c.id as string }))),
  )
  const states = computed(() => doc.order.flatMap((id) => Object.values(doc.statesOf(id))))
  const most = computed(() => {
    const counts = new Map<string, number>()
    for (const { kind } of items.value) counts.set(kind, (counts.get(kind) ?? 0) + 1)
    return Math.max(0, ...counts.values())
  })
  const add = { act: 'Add an item (A)', does: () => void (workspace.adding = true) }

  const panel = computed<Step[]>(() => [
    { text: 'Add a text.', ...add, done: items.value.some((i) => i.kind === 'text') },
    {
      text: 'Make a null (an item that only carries) with a fader.',
      act: 'New control (C)',
      does: () => void (workspace.addingControl = true),
      done: controls.value.length > 0,
    },
    {
      text: 'Select the text, and drag a cable from the fader’s jack (its lettered connector) to a property on the Card. Or press the property’s name, then L.',
      done: controls.value.some((c) => (doc.drives[`${c.id}/${c.control}`] ?? 0) > 0),
    },
    {
      text: 'Move the fader and press K to pin it (a pin is a keyframe); do so at another frame, and press Space to play.',
      done: played.value && controls.value.some((c) => (doc.state(c.id, c.control).pins?.length ?? 0) > 1),
    },
  ])
  const row = computed<Step[]>(() => [
    { text: 'Add five things side by side: type 5 ellipse Bead, then Shift Enter.', ...add, done: most.value > 2 },
    {
      text: 'Select the first and let it move: pin its position (the pin ends its row on the Card), go on in time, and change it, which pins it again.',
      done: states.value.some((s) => (s.pins?.length ?? 0) > 1),
    },
    {
      text: 'Select all, the first one first, and apply Trail: one link on a row (an ordered list of items).',
      act: 'Recipes (R)',
      does: () => void (workspace.recipe = ''),
      done: doc.spreads.length > 0,
    },
    { text: 'Press Space: each does what the one before it did, a little later.', done: doc.spreads.length > 0 && played.value },
  ])
  const graph = computed<Step[]>(() => [
    { text: 'Add a shape, a rectangle perhaps.', ...add, done: items.value.some((i) => doc.kinds.get(i.kind)?.class !== 'null') },
    {
      text: 'Open the Graph, and begin with something that sways: its slips (nodes) are put on the sheet.',
      act: 'Graph (4)',
      does: () => void (workspace.tab = 'graph'),
      done: doc.graphs.length > 0,
    },
    {
      text: 'On the slip called drive, press Drive a property… and choose the rotation of your shape.',
      done: states.value.some((s) => s.links?.some((l) => l.kind === 'graph')),
    },
    { text: 'Press Space, and type another number into a slip while it plays.', done: doc.graphs.length > 0 && played.value },
  ])
  const all = [
    { key: 'panel', name: 'A panel for a text', steps: panel },
    { key: 'row', name: 'A row that trails', steps: row },
    { key: 'graph', name: 'A graph', steps: graph },
  ] as const
  const key = ref<(typeof all)[number]['key']>('panel')
  /** Whether somebody chose one: who goes their own way is not told of the next step wherever they are. */
  const chosen = ref(false)
  function choose(one: typeof key.value): void {
    key.value = one
    chosen.value = true
  }
  const steps = computed(() => all.find((b) => b.key === key.value)?.steps.value ?? [])
  const next = computed(() => steps.value.findIndex((s) => !s.done))

  // They are for a composition that was opened with no control; they stay until they are done or closed.
  const fresh = ref(new Set<Id>())
  watch(
    [() => doc.project, () => doc.status, () => doc.compositionId],
    () => {
      played.value = chosen.value = false
      if (doc.status === 'ready' && doc.compositionId && !doc.controlled.length) fresh.value.add(doc.compositionId)
    },
    { immediate: true },
  )
  const shown = computed(() => doc.status === 'ready' && fresh.value.has(doc.compositionId) && !closed.value.includes(doc.project))
  const close = (): void => void (closed.value = [...closed.value.slice(-50), doc.project])
  return { all, key, choose, chosen, steps, next, shown, controls, close }
})
