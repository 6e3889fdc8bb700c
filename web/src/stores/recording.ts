import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { said } from '@/composables/notify'
import type { Gestures, Id, Ref, Value } from '@/core/types'
import { useDocument } from './document'
import { usePlayback } from './playback'
import { useSelection } from './selection'

type Row = Gestures['perform']['rows'][number]
const keyOf = (r: Ref): string => `${r.item}/${r.property}`

/** What was performed where the page went away before it was kept, by project. */
const lost = (project: Id): string => `wunderkammer:performance:${project}`

/** Performing controls into pins: what is armed, and what the hand does while time runs. */
export const useRecording = defineStore('recording', () => {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()
  const armed = ref<Ref[]>([])
  const running = ref(false)
  /** How fast time runs meanwhile. */
  const speed = ref(1)
  let rows = new Map<string, Row>()
  let composition = ''

  const isArmed = (r: Ref): boolean => armed.value.some((a) => keyOf(a) === keyOf(r))
  function arm(r: Ref): void {
    armed.value = isArmed(r) ? armed.value.filter((a) => keyOf(a) !== keyOf(r)) : [...armed.value, { item: r.item, property: r.property }]
    if (!armed.value.length) void stop()
  }
  const disarm = (): void => void stop().then(() => (armed.value = []))
  const names = computed(() => armed.value.map((r) => doc.nameOf(r)))
  // What is no longer there is no longer armed.
  watch(
    () => doc.layout,
    () => {
      const there = armed.value.filter((r) => doc.spec(r.item, r.property))
      if (there.length < armed.value.length) armed.value = there
    },
  )

  /** The whole value that a hand gives a property, of which it may hold one component. */
  function whole(target: Ref, value: Value): Value {
    const spec = doc.spec(target.item, target.property)
    const k = target.component ? (spec?.parts?.indexOf(target.component) ?? -1) : -1
    const last = rows.get(keyOf(target))?.values.at(-1)
    const now = Array.isArray(last) ? last : spec ? doc.numbers(target.item, spec) : []
    return k < 0 ? value : ((now as number[]).map((x, i) => (i === k ? value : x)) as Value)
  }

  /** Takes what a hand sets while time runs; false for what is not armed. */
  function takes({ targets, value }: Gestures['set']): boolean {
    if (!running.value || !targets.length || !targets.every(isArmed)) return false
    for (const target of targets) {
      const made = whole(target, value)
      const row = rows.get(keyOf(target)) ?? { ref: { item: target.item, property: target.property }, frames: [], values: [] }
      row.frames.push(playback.at())
      row.values.push(made)
      rows.set(keyOf(target), row)
    }
    void doc.preview('show', { values: [...rows.values()].map((r) => ({ ref: r.ref, value: r.values.at(-1) as Value })) })
    return true
  }

  function start(): void {
    if (!armed.value.length) return said('Arm a control first: press the circle before its name on the Desk.')
    rows = new Map()
    composition = doc.compositionId
    running.value = true
    playback.play({ speed: speed.value, once: true })
  }

  /** Ends it, and keeps what was performed as one step. */
  async function stop(): Promise<void> {
    if (!running.value) return
    running.value = false
    const end = playback.at()
    playback.pause()
    for (const row of rows.values()) {
      row.frames.push(end) // the hand held it until here
      row.values.push(row.values.at(-1) as Value)
    }
    const done = [...rows.values()]
    rows = new Map()
    if (!done.length) {
      await doc.cancelPreview()
      return said('Nothing was performed: move an armed control while it records.')
    }
    const made = await doc.gesture('perform', { rows: done })
    if (made)
      selection.pins = made.pins ?? [] // at hand, to be smoothed
    else stash(done)
  }
  const toggle = (): void => void (running.value ? stop() : start())
  watch(
    () => playback.playing,
    (on) => !on && void stop(),
  )
  doc.divert({ takes, leaving: stop })

  // What was performed is kept, even where the page goes away in the middle of it.
  function stash(done: Row[]): void {
    if (done.length) localStorage.setItem(lost(doc.project), JSON.stringify({ composition, rows: done }))
  }
  window.addEventListener('pagehide', () => running.value && stash([...rows.values()]))
  watch(
    () => doc.status,
    async (status) => {
      const text = status === 'ready' && localStorage.getItem(lost(doc.project))
      if (!text) return
      localStorage.removeItem(lost(doc.project))
      const kept = JSON.parse(text) as { composition: Id; rows: Row[] }
      if (kept.composition !== doc.compositionId) await doc.select(kept.composition)
      if (await doc.gesture('perform', { rows: kept.rows })) said('What was being performed when the page closed was kept.')
    },
    { immediate: true },
  )

  return { armed, running, speed, names, isArmed, arm, disarm, start, stop, toggle }
})
