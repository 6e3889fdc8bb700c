import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { hand, type Panel } from '@/composables/hand'
import { usePinOf } from '@/composables/pinOf'
import type { Id, Item, Ref } from '@/core/types'
import { asking } from './asking'
import { useDocument } from './document'
import { useWiring } from './wiring'

/** A pin that is picked, on the track of a control. */
export interface PickedPin {
  item: Id
  property: string
  frame: number
}

/** What is selected: items in the order they were picked, properties of them, a control, pins. */
export const useSelection = defineStore('selection', () => {
  const doc = useDocument()
  const wiring = useWiring()
  const pinOf = usePinOf()
  const ids = shallowRef<Id[]>([])
  const properties = shallowRef<string[]>([]) // keys, with ".x" for one component
  const controls = shallowRef<Ref[]>([])
  /** The control that was picked last. */
  const control = computed<Ref | null>({
    get: () => controls.value[controls.value.length - 1] ?? null,
    set: (c) => (controls.value = c ? [c] : []),
  })
  const sameAs = (a: Ref) => (b: Ref) => a.item === b.item && a.property === b.property
  const pins = shallowRef<PickedPin[]>([])
  /** The frames of those that are picked, by item and property; while they are dragged, where they are now. */
  const picked = computed(() => {
    const out = new Map<Id, Map<string, Set<number>>>()
    for (const { item, property, frame } of doc.inHand ?? pins.value) {
      let of = out.get(item)
      if (!of) out.set(item, (of = new Map()))
      const frames = of.get(property)
      if (frames) frames.add(frame)
      else of.set(property, new Set([frame]))
    }
    return out
  })
  const none: ReadonlySet<number> = new Set()
  const framesOf = (item: Id, property: string): ReadonlySet<number> => picked.value.get(item)?.get(property) ?? none
  const hasPin = (p: PickedPin): boolean => framesOf(p.item, p.property).has(p.frame)

  /** Where each item that is selected stands among them. */
  const places = computed(() => new Map(ids.value.map((id, k) => [id, k])))
  const has = (id: Id): boolean => places.value.has(id)
  const placeOf = (id: Id): number => places.value.get(id) ?? -1

  const items = computed(() => ids.value.map((id) => doc.items.get(id)).filter((i): i is Item => i !== undefined))

  function pick(id: Id, how: 'only' | 'toggle' = 'only'): void {
    if (how === 'only') ids.value = [id]
    else ids.value = has(id) ? ids.value.filter((i) => i !== id) : [...ids.value, id]
    control.value = null
    pins.value = []
    at('items')
  }

  function pickAll(list: Id[]): void {
    ids.value = list
    control.value = null
    pins.value = []
    at('items')
  }

  /** Items are picked in the tree and in the viewport, controls on the Desk and in Curves; picked from elsewhere, as if in the first. */
  function at(panel: Panel): void {
    if (hand.panel !== { items: 'viewport', desk: 'curves' }[panel as string]) hand.panel = panel
  }

  function pickProperty(key: string, toggle: boolean): void {
    control.value = null
    if (!toggle) properties.value = [key]
    else properties.value = properties.value.includes(key) ? properties.value.filter((k) => k !== key) : [...properties.value, key]
  }

  function pickControl(ref: Ref, how: 'only' | 'toggle' = 'only'): void {
    if (how === 'only') controls.value = [ref]
    else controls.value = controls.value.some(sameAs(ref)) ? controls.value.filter((c) => !sameAs(ref)(c)) : [...controls.value, ref]
    properties.value = []
    at('desk')
  }

  /** The properties that a command is about: the picked ones of every selected item, or the control. */
  const targets = computed<Ref[]>(() => {
    if (controls.value.length) return controls.value
    return properties.value.flatMap((key) => {
      const [property, component] = key.split('.') as [string, string | undefined]
      return ids.value
        .filter((id) => doc.spec(id, property))
        .map((item) => (component ? { item, property, component } : { item, property }))
    })
  })

  /** The numbers that items are shown with: as members of the row whose editor is open, else in the order they were picked. */
  const numbers = computed<Map<Id, number>>(() => {
    const [item = '', property = ''] = wiring.editing?.split('/') ?? []
    const row = has(item) ? doc.spreadsOn(item, property)[0] : undefined
    if (row && row.roster.kind !== 'vertices') return new Map((row.members ?? []).map((m, k) => [m.item, k + 1]))
    return new Map(ids.value.length > 1 ? ids.value.map((id, k) => [id, k + 1]) : [])
  })

  function clear(): void {
    ids.value = []
    properties.value = []
    control.value = null
    pins.value = []
  }

  // What is no longer there is no longer selected.
  watch(
    () => doc.layout,
    () => {
      ids.value = ids.value.filter((id) => doc.items.has(id))
      controls.value = controls.value.filter((c) => doc.spec(c.item, c.property))
      pins.value = pins.value.filter((p) => doc.items.has(p.item))
    },
  )
  watch(
    () => doc.stands,
    () => {
      const there = pins.value.filter((p) => pinOf(p))
      if (there.length < pins.value.length) pins.value = there
    },
  )
  watch(ids, () => {
    properties.value = properties.value.filter((key) => ids.value.some((id) => doc.spec(id, key.split('.')[0] as string)))
  })

  return {
    ids,
    items,
    properties,
    controls,
    control,
    pins,
    picked,
    ...asking({ has, placeOf, hasPin, framesOf }),
    targets,
    numbers,
    pick,
    pickAll,
    pickProperty,
    pickControl,
    clear,
  }
})
