import { computed } from 'vue'
import { core } from '@/core/client'
import type { GestureName, Gestures, PinClip, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection, type PickedPin } from '@/stores/selection'
import { said, sentence } from './notify'

/** The pins that were copied last. */
let clip: PinClip | null = null

/** What is done with the pins that are picked: each gesture takes all of them along, and the picking goes with them. */
export function usePinCommands() {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()

  const picked = computed(() => selection.pins)
  const rows = computed(() => new Set(picked.value.map((p) => `${p.item}/${p.property}`)).size)
  const first = computed(() => picked.value.reduce((a, p) => Math.min(a, p.frame), Infinity))
  const last = computed(() => picked.value.reduce((a, p) => Math.max(a, p.frame), -Infinity))

  /** Makes a gesture on pins, and picks those that came of it; where pins would go that were not picked, it asks first. */
  async function make<G extends GestureName>(what: G, using: Gestures[G], then: PickedPin[]): Promise<void> {
    const done = await doc.gesture(what, using)
    if (!done) return
    if (!done.asks) return void (selection.pins = there(then))
    said(sentence(done.note ?? ''), () => make(what, { ...using, [done.asks as string]: true }, then), 'Replace')
  }
  const there = (list: PickedPin[]): PickedPin[] => list.filter((p) => doc.state(p.item, p.property).pins?.some((q) => q.frame === p.frame))
  const at = (to: (frame: number) => number): PickedPin[] => picked.value.map((p) => ({ ...p, frame: to(p.frame) }))

  const move = (by: number, copy = false) =>
    make(
      'move pins',
      { pins: picked.value, by, copy },
      at((f) => f + by),
    )
  const stretched =
    (stays: number, from: number, to: number) =>
    (f: number): number =>
      Math.round(stays + ((f - stays) * (to - stays)) / (from - stays))
  const stretch = (stays: number, from: number, to: number) =>
    make('stretch pins', { pins: picked.value, stays, from, to }, at(stretched(stays, from, to)))
  const reverse = () =>
    make(
      'reverse pins',
      { pins: picked.value },
      at((f) => first.value + last.value - f),
    )
  /** What is spread or staggered stays picked by its places in the row. */
  async function again(what: 'spread pins' | 'stagger pins', by = 0): Promise<void> {
    const places = picked.value.map((p) => ({ p, k: (doc.state(p.item, p.property).pins ?? []).findIndex((q) => q.frame === p.frame) }))
    await (what === 'spread pins' ? make(what, { pins: picked.value }, []) : make(what, { pins: picked.value, by }, []))
    selection.pins = places.flatMap(({ p, k }) => {
      const pin = doc.state(p.item, p.property).pins?.[k]
      return pin ? [{ ...p, frame: pin.frame }] : []
    })
  }
  const ease = (easing: string) => make('ease pins', { pins: picked.value, easing }, picked.value)
  const set = (value: number) => make('set pins', { pins: picked.value, value }, picked.value)

  function drop(): void {
    const pins = picked.value
    selection.pins = []
    void doc.gesture('drop pins', { pins })
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
    const targets: Ref[] = others.length ? others : clip.rows.map((r) => r.ref)
    const put = clip.rows.flatMap((r, k) => {
      const to = targets[k]
      return to ? r.pins.map((p) => ({ item: to.item, property: to.property, frame: p.frame + playback.frame })) : []
    })
    await make('paste pins', { clip, targets: others.length ? others : undefined }, put)
  }
  const copied = (): boolean => clip !== null

  /** The value that all picked pins have, where they are numbers and it is one. */
  const value = computed<number | undefined>(() => {
    const all = picked.value.map((p) => doc.state(p.item, p.property).pins?.find((q) => q.frame === p.frame)?.value)
    const one = all[0]
    return typeof one === 'number' && all.every((v) => typeof v === 'number') ? (all.every((v) => v === one) ? one : NaN) : undefined
  })
  const easing = computed(() => {
    const all = new Set(picked.value.map((p) => doc.state(p.item, p.property).pins?.find((q) => q.frame === p.frame)?.easing))
    return all.size === 1 ? [...all][0] : undefined
  })

  return { picked, rows, first, last, move, stretch, stretched, reverse, again, ease, set, drop, copy, paste, copied, value, easing }
}
