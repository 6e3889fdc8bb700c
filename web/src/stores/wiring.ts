import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Id, Link, LinkKind, Ref, ValueType } from '@/core/types'
import { useDocument } from './document'
import { useSelection } from './selection'

/** A socket: one property, or the same property of several items. */
export interface Jack {
  refs: Ref[]
  type: ValueType
  name: string
  readOnly?: boolean
}

/** A property is to be chosen: by a search through all, or, where an item is given, among its own. */
export interface Choosing {
  /** What is to drive it. */
  from: string
  type?: ValueType
  item?: Id
  except?: (ref: Ref) => boolean
  take: (ref: Ref) => unknown
}

/** The cable in the hand. */
export const useWiring = defineStore('wiring', () => {
  const doc = useDocument()
  const source = shallowRef<Jack | null>(null)
  const start = ref({ x: 0, y: 0 })
  const end = ref({ x: 0, y: 0 })
  /** Whether the search for a source is open, and for what. */
  const finding = shallowRef<Ref[] | null>(null)
  /** The property whose link is being edited, as "item/property". */
  const editing = ref<string | null>(null)
  /** The item whose links are edited, and those of them that are on rows: they stay open when another member is selected. */
  const editedRows = computed(() => {
    const [item, property] = editing.value?.split('/') ?? []
    return { item, ids: new Set(item && property ? doc.spreadsOn(item, property).map((s) => s.id) : []) }
  })
  /** Whether the formula that opens next is to be written at once. */
  const toFormula = ref(false)
  /** The link that was copied last. */
  const copied = ref<Link | null>(null)
  /** The control that the pointer is over: what it drives is lit up. */
  const hovered = ref<Ref | null>(null)
  /** The property whose jack the pointer is over: its cables are drawn whole. */
  const jack = ref<Ref | null>(null)
  /** A link that is to get another source, found by the search. */
  const reattaching = ref<{ target: Ref; link: string; spread?: Id } | null>(null)
  /** What waits for a property to be chosen. */
  const choosing = shallowRef<Choosing | null>(null)

  /** The items that the hovered or picked control drives, directly. */
  const lit = computed(() => {
    const from = hovered.value
    return new Set(from ? doc.followers[`${from.item}/${from.property}`] : [])
  })

  /** Whether a source of one type can drive a target of another by a kind of link, both whole. */
  const fits = (source: ValueType, target: ValueType, kind: LinkKind = 'follow'): boolean =>
    !!doc.catalogue.links.find((k) => k.kind === kind)?.fits[source]?.includes(target)

  /** Why a jack cannot take the cable in the hand; empty if it can. */
  function refusal(target: Jack): string {
    const from = source.value
    if (!from) return ''
    const here = from.refs[0] as Ref
    if (target.refs.some((r) => r.item === here.item && r.property === here.property)) return 'A property cannot drive itself.'
    if (target.readOnly) return `${target.name} is read-only.`
    if (fits(from.type, target.type)) return ''
    return `${from.name} (${from.type}) can't drive ${target.name} (${target.type}).`
  }

  function grab(jack: Jack, x: number, y: number): void {
    source.value = jack
    start.value = { x, y }
    end.value = { x, y }
  }

  function letGo(): void {
    source.value = null
  }

  /** Wires a source to targets, and opens the editor of the new link. */
  async function link(
    from: Ref,
    targets: Ref[],
    how: { kind?: Link['kind']; fromHere?: boolean; follow?: boolean; single?: boolean } = {},
  ): Promise<boolean> {
    const done = await doc.gesture('link', { source: from, targets, ...how })
    const first = targets[0]
    if (done && first) editing.value = first.item + '/' + first.property
    return done !== undefined
  }

  /** Puts a formula on properties, or one on all of them as a row, and opens its editor: to be written over at once, or as it is. */
  async function write(gesture: 'formula' | 'spread', targets: Ref[], text: string, over: boolean): Promise<boolean> {
    const [done, first] = [await doc.gesture(gesture, { targets, text }), targets[0]]
    if (!done || !first) return false
    toFormula.value = over
    editing.value = `${first.item}/${first.property}`
    return true
  }

  /** Has a property chosen that a source is to drive: of one item, or of any. Where the item is one of several that are selected, all are
   * driven that have the property. */
  function choose(source: Ref, type: ValueType, item?: Id): void {
    const except = (r: Ref): boolean => r.item === source.item && r.property === source.property
    const { ids, has } = useSelection()
    const all = item && has(item) ? [item, ...ids.filter((id) => id !== item && id !== source.item)] : undefined
    const take = (target: Ref): Promise<boolean> =>
      link(source, all ? all.filter((id) => doc.spec(id, target.property)).map((id) => ({ ...target, item: id })) : [target])
    choosing.value = { from: doc.nameOf(source), type, item, except, take }
  }

  return {
    source,
    start,
    end,
    finding,
    editing,
    editedRows,
    toFormula,
    copied,
    hovered,
    jack,
    reattaching,
    choosing,
    choose,
    lit,
    fits,
    refusal,
    grab,
    letGo,
    link,
    write,
  }
})
