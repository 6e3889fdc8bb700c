import { computed } from 'vue'
import { newId } from '@/composables/ids'
import type { Composition, Control, Id, Item, Ref, SceneComposition } from '@/core/types'
import { useDocument } from '@/stores/document'

/** A heading of what was handed off, and the controls under it. */
export interface Part {
  heading: string
  controls: Control[]
}

/** The readings of what was handed off: which there are, the one that is open, and what is set in it. */
export function useReadings() {
  const doc = useDocument()
  const whole = computed<Composition | undefined>(() => doc.compositions.find((c) => c.handOff ?? !c.reading))
  const list = computed(() => doc.compositions.filter((c) => c.reading))
  const open = computed(() => list.value.find((c) => c.id === doc.compositionId))
  /** The piece that holds what is set. */
  const piece = computed<Item | undefined>(() => (open.value ? [...doc.items.values()].find((i) => i.piece) : undefined))
  const controls = computed<Control[]>(() => whole.value?.offered ?? [])
  const parts = computed<Part[]>(() => {
    const out: Part[] = []
    for (const c of controls.value) {
      if (c.heading || !out.length) out.push({ heading: c.heading ?? '', controls: [] })
      out[out.length - 1]?.controls.push(c)
    }
    return out
  })
  const refOf = (c: Control): Ref => ({ item: piece.value?.id ?? '', property: c.id })
  const changed = (c: Control): boolean => {
    const s = piece.value && doc.state(piece.value.id, c.id)
    return !!s && (s.own !== undefined && s.own !== null ? true : !!s.pins?.length)
  }
  const pinnable = (c: Control): boolean => !whole.value?.handOff?.offers?.find((o) => o.id === c.id)?.noPins
  /** What was set for controls that are no longer handed off. */
  const kept = computed(() => {
    const known = new Set(controls.value.map((c) => c.id))
    return piece.value ? Object.keys(doc.statesOf(piece.value.id)).filter((key) => !known.has(key)) : []
  })

  const reset = (...some: Control[]): Promise<unknown> => doc.gesture('reset', { targets: some.map(refOf) })

  function free(name: string): string {
    const names = new Set(list.value.map((c) => c.name))
    let n = 1
    while (names.has(n > 1 ? `${name} ${n}` : name)) n++
    return n > 1 ? `${name} ${n}` : name
  }
  /** Adds a reading, like the one that is open or as it was handed off, and opens it. */
  async function add(name: string, like?: Item): Promise<void> {
    const c = whole.value
    if (!c) return
    const states = like && Object.fromEntries(Object.entries(doc.statesOf(like.id)))
    const value: SceneComposition = {
      id: newId(),
      name: free(name),
      width: c.width,
      height: c.height,
      rate: c.rate,
      frames: c.frames,
      background: c.background,
      reading: c.id,
      items: [{ id: newId(), name: c.name, kind: 'piece', piece: { composition: c.id }, ...(states && { states }) }],
    }
    await bring(value)
  }
  /** Adds a reading as it is, and opens it. */
  async function bring(value: SceneComposition): Promise<void> {
    if (await doc.gesture('operations', { ops: [{ op: 'composition.add', value, at: -1 }] })) await select(value.id)
  }
  const select = (id: Id): Promise<unknown> => doc.select(id)
  const rename = (name: string): Promise<unknown> => doc.operations({ op: 'composition.set', name })
  async function remove(): Promise<void> {
    const next = list.value.find((c) => c.id !== doc.compositionId)
    const gone = doc.compositionId
    if (!next) return
    await select(next.id)
    await doc.gesture('operations', { ops: [{ op: 'composition.remove', composition: gone }] })
  }

  return { whole, list, open, piece, controls, parts, refOf, changed, pinnable, kept, reset, add, bring, select, rename, remove, free }
}
