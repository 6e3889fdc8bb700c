import { computed, nextTick } from 'vue'
import { core } from '@/core/client'
import type { GestureName, Gestures, Pin, PinClip } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { said, sentence } from './notify'
import { useTurns } from './turns'

/** The pins that were copied last. */
let clip: PinClip | null = null

/** Moves wait for those before them, which say where the pins are then: quick presses add up. */
const turns = useTurns()
let waiting = 0
function inTurn(act: () => Promise<unknown>): Promise<unknown> {
  waiting++
  return turns(act).finally(() => waiting--)
}

/** What is done with the pins that are picked: each gesture takes all of them along, and the picking goes with them. */
export function usePinCommands() {
  const doc = useDocument()
  const selection = useSelection()

  const picked = computed(() => selection.pins)
  const rows = computed(() => [...selection.picked.values()].reduce((n, of) => n + of.size, 0))
  const first = computed(() => picked.value.reduce((a, p) => Math.min(a, p.frame), Infinity))
  const last = computed(() => picked.value.reduce((a, p) => Math.max(a, p.frame), -Infinity))

  /** Makes a gesture on pins, and picks what it leaves in the hand; where pins would go that were not picked, it asks first. */
  async function make<G extends GestureName>(what: G, using: Gestures[G]): Promise<void> {
    const done = await doc.gesture(what, using)
    if (done?.asks) said(sentence(done.note ?? ''), () => make(what, { ...using, [done.asks as string]: true }), 'Replace')
    else if (done) selection.pins = done.pins ?? []
  }
  /** Moves them by frames, and by a rise in value, of a component where one is named. */
  const move = (by: number, copy = false, rise = 0, component?: string) =>
    by || rise ? inTurn(() => make('move pins', { pins: picked.value, by, copy, rise, component })) : undefined
  /** Whether they are being moved. */
  const onTheWay = (): boolean => waiting > 0
  const stretch = (stays: number, from: number, to: number) =>
    from === to ? undefined : make('stretch pins', { pins: picked.value, stays, from, to })
  const reverse = () => make('reverse pins', { pins: picked.value })
  /** Lets the points that have pins among them move along a smooth path; or straight from pin to pin, where they do. */
  const turnPath = () =>
    make('bend path', {
      targets: [...selection.picked].flatMap(([item, of]) => [...of.keys()].map((property) => ({ item, property }))),
      straight: bent.value,
    })
  const evenSpeed = () => make('even speed', { pins: picked.value })
  const spread = () => make('spread pins', { pins: picked.value })
  const stagger = (by: number) => make('stagger pins', { pins: picked.value, by })
  const ease = (easing: string) => make('ease pins', { pins: picked.value, easing })
  const set = (value: number) => make('set pins', { pins: picked.value, value })

  /** Removes them. What had the keys among them gives them to the pin that takes its place, else to time. */
  async function drop(): Promise<void> {
    const had = document.activeElement
    const home = had?.closest('[data-track], [data-panel]')
    const marks = (): HTMLElement[] => [...(home?.querySelectorAll<HTMLElement>('.pin[aria-pressed]') ?? [])]
    const at = marks().findIndex((m) => m === had)
    const pins = picked.value
    selection.pins = []
    await doc.gesture('drop pins', { pins })
    await nextTick()
    if (document.activeElement !== document.body || !home) return
    const left = at < 0 ? [] : marks()
    const next = left[Math.min(at, left.length - 1)] ?? home.closest('[data-panel]')?.querySelector<HTMLElement>('[role=slider].ruler')
    next?.focus()
  }

  async function copy(): Promise<void> {
    const answer = await core.ask('copy pins', picked.value)
    clip = answer.result ?? null
    said(picked.value.length === 1 ? 'One pin copied.' : `${picked.value.length} pins copied.`)
  }
  /** Pastes at the playhead: onto the controls that are picked, where they are others, else onto those that the pins are of. */
  async function paste(): Promise<void> {
    if (!clip) return
    const own = new Set(clip.rows.map((r) => `${r.ref.item}/${r.ref.property}`))
    const others = selection.controls.filter((c) => !own.has(`${c.item}/${c.property}`))
    await make('paste pins', { clip, targets: others.length ? others : undefined })
  }
  const copied = (): boolean => clip !== null

  /** The pins that are picked; while they are dragged, as they were. */
  const found = computed<Pin[]>((was) => {
    if (was && doc.inHand) return was
    const now: Pin[] = []
    for (const [item, properties] of selection.picked)
      for (const [property, frames] of properties)
        for (const pin of doc.state(item, property).pins ?? []) if (frames.has(pin.frame)) now.push(pin)
    return was && now.length < picked.value.length ? was : now
  })
  /** The value that all picked pins have, where they are numbers and it is one. */
  const value = computed<number | undefined>(() => {
    const all = found.value.map((p) => p.value)
    const one = all[0]
    return typeof one === 'number' && all.every((v) => typeof v === 'number') ? (all.every((v) => v === one) ? one : NaN) : undefined
  })
  /** Whether any of them is on a path. */
  const bent = computed(() => found.value.some((p) => p.lead ?? p.arrive))
  const easing = computed(() => {
    const all = new Set(found.value.map((p) => p.easing))
    return all.size === 1 ? [...all][0] : undefined
  })

  /** The frames that pins besides the picked ones are at. */
  function others(): number[] {
    const out = new Set<number>()
    for (const item of doc.order)
      for (const [property, state] of Object.entries(doc.statesOf(item)))
        for (const { frame } of state.pins ?? []) if (!selection.hasPin({ item, property, frame })) out.add(frame)
    return [...out]
  }

  return {
    others,
    onTheWay,
    picked,
    rows,
    first,
    last,
    move,
    stretch,
    reverse,
    spread,
    evenSpeed,
    turnPath,
    bent,
    stagger,
    ease,
    set,
    drop,
    copy,
    paste,
    copied,
    value,
    easing,
  }
}
