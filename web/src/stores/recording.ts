import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { said, sentence } from '@/composables/notify'
import { core } from '@/core/client'
import type { Gestures, Id, Ref, Value } from '@/core/types'
import { asking } from './asking'
import { useDocument } from './document'
import { usePlayback } from './playback'
import { useSelection } from './selection'

type Row = Gestures['perform']['rows'][number]
const keyOf = (r: Ref): string => `${r.item}/${r.property}`

/** What was performed where the page went away before it was kept, by project. */
const lost = (project: Id): string => `wunderkammer:performance:${project}`

/** Performing controls into pins: what is armed, how, and what the hand does while time runs. */
export const useRecording = defineStore('recording', () => {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()
  const armed = shallowRef<Ref[]>([])
  const armedKeys = computed(() => new Set(armed.value.map(keyOf)))
  const running = ref(false)
  /** How fast time runs meanwhile. */
  const speed = ref(1)
  /** Whether the range is gone through over and over, each time as a step of its own. */
  const loops = ref(false)
  /** Whether what the hand does is added to what is pinned, and does not replace it. */
  const adds = ref(false)
  /** Whether three seconds are counted before it begins, and which of them is on; 0: none. */
  const countsIn = ref(false)
  const counting = ref(0)
  let rows = new Map<string, Row>()
  let composition = ''
  let ended = -Infinity // when it ended last
  let seen = 0 // where the playhead was last
  const held = new Set<string>() // what a hand has hold of

  const isArmed = (r: Ref): boolean => armedKeys.value.has(keyOf(r))
  /** Presses wait for those before them, and recording for all of them: whoever is quick is not told that nothing is armed. */
  let arming = Promise.resolve()
  const arm = (r: Ref): Promise<void> => (arming = arming.then(() => turn(r)))
  async function turn(r: Ref): Promise<void> {
    if (isArmed(r)) armed.value = armed.value.filter((a) => keyOf(a) !== keyOf(r))
    else {
      const one = { item: r.item, property: r.property }
      const { error } = await core.ask('performable', one)
      if (error) return said(sentence(error))
      if (!isArmed(one)) armed.value = [...armed.value, one]
    }
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

  /**
   * What is performed is shown with each frame that time comes to, in one piece with it; where time runs slowly, as often as frames
   * come at full speed, however often hands say where they are.
   */
  let showing = 0
  let shownAt = 0
  const show = (): void => void (showing ||= requestAnimationFrame(showDue))
  function showDue(): void {
    showing = 0
    if (performance.now() - shownAt < 1000 / playback.rate) show()
    else void shows()
  }
  function shows(): Promise<void> | null {
    cancelAnimationFrame(showing)
    showing = 0
    if (!running.value || !rows.size) return null
    shownAt = performance.now()
    const all = [...rows.values()]
    const values = all.map((r) => ({ ref: r.ref, value: r.values.at(-1) as Value }))
    return doc.preview('show', adds.value ? { values, began: all.map((r) => r.frames[0] as number) } : { values })
  }

  /** Takes what a hand sets while time runs, for good where it lets go with it; false for what is not armed. What it still holds
   * when time has ended changes nothing any more. */
  function takes({ targets, value }: Gestures['set'], last: boolean): boolean {
    const mine = targets.length > 0 && targets.every(running.value ? isArmed : (t) => held.has(keyOf(t)))
    if (!mine) return false
    if (running.value) look()
    for (const target of targets) {
      const key = keyOf(target)
      if (last) held.delete(key)
      else held.add(key)
      if (!running.value) continue
      const made = whole(target, value)
      const row = rows.get(key) ?? { ref: { item: target.item, property: target.property }, frames: [], values: [] }
      row.frames.push(seen)
      row.values.push(made)
      rows.set(key, row)
    }
    if (running.value) show()
    return true
  }
  window.addEventListener('pointerdown', () => held.clear(), { capture: true })

  /** Looks where the playhead is. Where it began anew, what was performed until then is kept, and what is held goes on. */
  function look(): void {
    const at = playback.at()
    if (at < seen) {
      const [first, last] = playback.stretch()
      const before = rows
      rows = new Map()
      for (const [key, row] of before) {
        const value = row.values.at(-1) as Value
        if (held.has(key)) rows.set(key, { ref: row.ref, frames: [first], values: [value] })
      }
      if (before.size) void keep([...before.values()], last)
      if (rows.size) show()
    }
    seen = at
  }
  watch(
    () => playback.frame,
    () => running.value && look(),
    { flush: 'sync' },
  )

  let clock = 0
  async function start(): Promise<void> {
    await arming
    if (busy.value) return
    if (!armed.value.length) return said('Arm a control first: press the circle before its name on the Desk.')
    if (!countsIn.value) return begin()
    playback.pause()
    counting.value = 3
    clock = window.setInterval(() => {
      if (--counting.value) return
      clearInterval(clock)
      begin()
    }, 1000)
  }
  function begin(): void {
    rows = new Map()
    held.clear()
    composition = doc.compositionId
    playback.pause()
    running.value = true
    playback.play({ speed: speed.value, once: !loops.value })
    seen = playback.at()
  }

  /** Keeps what was performed, as one step; the hand held it until a frame. */
  async function keep(done: Row[], end: number): Promise<void> {
    for (const row of done) {
      row.frames.push(Math.max(end, row.frames.at(-1) as number))
      row.values.push(row.values.at(-1) as Value)
    }
    const made = await doc.gesture('perform', { rows: done, adds: adds.value })
    if (made)
      selection.pins = made.pins ?? [] // at hand, to be smoothed
    else stash(done)
  }

  /** Ends it, or the counting before it. */
  async function stop(): Promise<void> {
    clearInterval(clock)
    counting.value = 0
    if (!running.value) return
    look()
    running.value = false
    ended = performance.now()
    const end = playback.at()
    playback.pause()
    const done = [...rows.values()]
    rows = new Map()
    if (done.length) return keep(done, end)
    await doc.cancelPreview()
    if (!loops.value) said('Nothing was performed: move an armed control while it records.')
  }
  const busy = computed(() => running.value || counting.value > 0)
  const toggle = (): void => void (busy.value ? stop() : start())
  watch(
    () => playback.playing,
    (on) => !on && void stop(),
  )
  doc.divert({ takes, shows, leaving: stop })
  window.addEventListener(
    'keydown',
    (event) => {
      if (event.key !== 'Escape' || !busy.value) return
      event.stopPropagation() // whatever the hand holds meanwhile
      void stop()
    },
    { capture: true },
  )

  // What was performed is kept, even where the page goes away in the middle of it.
  function stash(done: Row[]): void {
    if (done.length) localStorage.setItem(lost(doc.project), JSON.stringify({ composition, rows: done, adds: adds.value }))
  }
  window.addEventListener('pagehide', () => running.value && stash([...rows.values()]))
  watch(
    () => doc.status,
    async (status) => {
      const text = status === 'ready' && localStorage.getItem(lost(doc.project))
      if (!text) return
      localStorage.removeItem(lost(doc.project))
      const { composition, ...kept } = JSON.parse(text) as { composition: Id } & Gestures['perform']
      if (composition !== doc.compositionId) await doc.select(composition)
      if (await doc.gesture('perform', kept)) said('What was being performed when the page closed was kept.')
    },
    { immediate: true },
  )

  return {
    armed,
    running,
    busy,
    counting,
    speed,
    loops,
    adds,
    countsIn,
    names,
    ended: () => ended,
    takes,
    ...asking({ isArmed }),
    arm,
    disarm,
    start,
    stop,
    toggle,
  }
})
