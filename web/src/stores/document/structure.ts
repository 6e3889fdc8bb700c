import { computed, ref, shallowReactive, shallowRef, toRaw, type ShallowRef } from 'vue'
import { asking } from '../asking'
import { useStates } from './states'
import { useVertices } from './vertices'
import type { Placed } from '@/composables/scripts'
import type {
  Catalogue,
  Composition,
  Control,
  Graph,
  Id,
  Item,
  ItemKind,
  Project,
  Ref,
  RosterLink,
  Spec,
  Staged,
  Structure,
  View,
} from '@/core/types'

/** Where the properties of all items stand among the values. */
type Slots = Pick<Structure, 'columns' | 'rows' | 'extras'>

/** Whether a property has slots; what has none is asked for by itself. */
export const placed = (s: Spec): boolean => s.column >= 0 || s.offset >= 0

/** What is in the composition, where everything stands, and how it is called. */
export function useStructure(
  catalogue: ShallowRef<Catalogue>,
  values: ShallowRef<Float64Array>,
  /** What was asked of properties without slots, by "item/key". */
  readouts: ReadonlyMap<string, number[]>,
) {
  const items = shallowReactive(new Map<Id, Item>())
  const states = useStates()
  const vertices = useVertices(items)
  const order = shallowRef<Id[]>([])
  const depths = shallowRef<number[]>([])
  const slots = shallowRef<Slots>({ columns: {}, rows: [], extras: [] })
  const world = ref(0)
  const stride = ref(13)
  /** What pieces show. */
  const staged = shallowRef<Staged | null>(null)
  /** The compositions of the project. */
  const compositions = shallowRef<Composition[]>([])
  const hidden = shallowRef(new Set<Id>())
  const out = shallowRef(new Set<Id>())
  /** The links on rosters. */
  const spreads = shallowRef<RosterLink[]>([])
  /** The graphs, in their order. */
  const graphs = shallowRef<Graph[]>([])
  /** Grows with every change of what stands where, for those who keep something by index. */
  const layout = ref(0)
  /** Grows when an item gets its first control, or loses its last. */
  const gathered = ref(0)

  const kinds = computed(() => new Map(catalogue.value.kinds.map((k) => [k.kind, k])))
  /** Where each item stands in the tree, by id. */
  const indexes = computed(() => new Map(order.value.map((id, i) => [id, i])))
  /** The items with controls, in the order of the tree. */
  const controlled = computed(() => {
    void layout.value
    void gathered.value
    return order.value.filter((id) => toRaw(items).get(id)?.controls?.length)
  })
  /** The items of each kind, in the order of the tree. */
  const byKind = computed(() => {
    void layout.value
    return Map.groupBy(order.value, (id) => toRaw(items).get(id)?.kind)
  })
  const ofKind = (kind: Item['kind']): Id[] => byKind.value.get(kind) ?? []
  const nulls = computed(() => ofKind('null'))
  /** What hangs on copies, which show it many times: it can have no controls of its own. */
  const copied = computed(() => {
    const inside = new Set<Id>()
    if (!ofKind('copies').length) return inside
    for (const id of order.value) {
      const parent = toRaw(items).get(id)?.parent
      if (parent && (inside.has(parent) || toRaw(items).get(parent)?.kind === 'copies')) inside.add(id)
    }
    return inside
  })
  /** The names of the nulls; those of before where they are the same, so that no menu is made anew when a value changes. */
  const nullNames = computed<{ id: Id; name: string; copied: boolean }[]>((was) => {
    const now = nulls.value.map((id) => ({ id, name: items.get(id)?.name ?? '', copied: copied.value.has(id) }))
    const same = (n: (typeof now)[0], old?: (typeof now)[0]): boolean => n.id === old?.id && n.name === old.name && n.copied === old.copied
    return was?.length === now.length && now.every((n, k) => same(n, was[k])) ? was : now
  })

  /** The properties of items, as each kind has them, or an item that has others; made when they are first asked for. */
  const listed = computed(() => ({ kinds: new Map<ItemKind, Specs>(), items: new WeakMap<Item, Specs>(), of: kinds.value }))
  interface Specs {
    list: Spec[]
    byKey: Map<string, Spec>
  }
  function specsHere(item: Item): Specs {
    const known = listed.value
    const raw = toRaw(item)
    const found = raw.specs?.length ? known.items.get(raw) : known.kinds.get(raw.kind)
    if (found) return found
    const kind = known.of.get(raw.kind)
    const own = new Map((raw.specs ?? []).map((s) => [s.key, s]))
    const specs = (kind?.specs ?? []).map((s) => {
      const here = own.get(s.key)
      own.delete(s.key)
      return here ?? s
    })
    const list = [...specs, ...own.values(), ...(kind?.readable ?? []).filter((r) => !own.has(r.key))]
    const made = { list, byKey: new Map(list.map((s) => [s.key, s])) }
    if (raw.specs?.length) known.items.set(raw, made)
    else known.kinds.set(raw.kind, made)
    return made
  }
  /** Every property of an item: of its kind, as the core has it on this item; its controls; what can be read of it. */
  const specsOf = (item: Item): readonly Spec[] => specsHere(item).list

  function spec(item: Id, property: string): Spec | undefined {
    const it = items.get(item)
    return it && (specsHere(it).byKey.get(property) ?? vertices.vertex(it, property))
  }

  /** The control that a property of an item is: one of its own, or of a piece one that its composition hands off. */
  const controlOf = (item: Id, key: string): Control | undefined => controlsOf(item).find((c) => c.id === key)
  /** The controls of an item: its own, and of a piece those that its composition hands off. */
  function controlsOf(item: Id): Control[] {
    const it = items.get(item)
    return [...(it?.controls ?? []), ...(offeredBy(it) ?? [])]
  }
  /** What the composition of a piece hands off. */
  const offeredBy = (item?: Item): Control[] | undefined => compositions.value.find((c) => c.id === item?.piece?.composition)?.offered

  /** The first slot of a property, or -1 for one without. */
  function slotOf(item: Id, s: Spec): number {
    const i = indexes.value.get(item)
    const kind = toRaw(items).get(item)?.kind // which never changes; the slots say when items come and go
    if (i === undefined || !kind) return -1
    if (s.column < 0) return s.offset < 0 ? -1 : (slots.value.extras[i] ?? 0) + s.offset
    const column = slots.value.columns[kind]?.[s.column]
    return column ? column.first + column.step * (slots.value.rows[i] ?? 0) : -1
  }

  /** The numbers of a property at this frame; of a text, its place in texts. */
  function numbers(item: Id, s: Spec): number[] {
    const size = s.parts?.length ?? 1
    const from = slotOf(item, s)
    return from < 0
      ? (readouts.get(item + '/' + s.key) ?? Array<number>(size).fill(0))
      : Array.from(values.value.subarray(from, from + size))
  }

  /** Where every property of every item stands that has slots, item by item. */
  function places(): Placed[] {
    return order.value.flatMap((id) => {
      const item = items.get(id)
      return (item ? specsOf(item) : [])
        .filter(placed)
        .map((s) => ({ item: id, property: s.key, slot: slotOf(id, s), size: s.parts?.length ?? 1 }))
    })
  }

  /** The links on rosters that drive a property of an item. */
  const spreadsOn = (item: Id, property: string): RosterLink[] =>
    spreads.value.filter(
      (s) =>
        (s.property === property || s.keys?.[item] === property || s.roster.kind === 'vertices') &&
        s.members.some((m) => m.item === item && m.property === property),
    )

  /** What a weight is called that was not set yet: by the property whose link it is of. */
  function weightOf(r: Ref): string | undefined {
    if (!r.property.startsWith('weight:')) return undefined
    const of = Object.entries(states.statesOf(r.item)).find(([, s]) => s.links?.some((l) => 'weight:' + l.id === r.property))
    return of && `weight of a link on ${spec(r.item, of[0])?.name ?? weightOf({ item: r.item, property: of[0] }) ?? ''}`
  }
  function nameOf(r: Ref): string {
    const part = r.component ? '.' + r.component : ''
    return `${items.get(r.item)?.name ?? 'a deleted item'}: ${spec(r.item, r.property)?.name ?? weightOf(r) ?? 'deleted'}${part}`
  }

  /** Takes the items from the project as the server sent it, with what the core worked out of them. */
  function takeOpened(view: View, opened: Project): void {
    const specs = new Map((view.specs ?? []).map((s) => [s.item, s.specs]))
    for (const { path, states: set, ...item } of opened.compositions.find((c) => c.id === view.composition)?.items ?? []) {
      items.set(item.id, {
        ...item,
        ...(path && { path: true, evenOdd: path.evenOdd }),
        ...(specs.has(item.id) && { specs: specs.get(item.id) }),
      })
      states.takeAll(item.id, set)
    }
    gathered.value++
  }

  function takeStructure(s: Structure): void {
    order.value = s.order
    depths.value = s.depths
    slots.value = { columns: s.columns, rows: s.rows, extras: s.extras }
    const present = new Set(s.order)
    for (const id of items.keys()) {
      if (present.has(id)) continue
      items.delete(id)
      states.forget(id)
    }
    world.value = s.world
    stride.value = s.stride
    staged.value = s.staged ?? null
    hidden.value = new Set(s.order.filter((_, i) => s.hidden[i]))
    out.value = new Set(s.order.filter((_, i) => s.out[i]))
    spreads.value = s.spreads
    layout.value++
  }

  /** Takes over what changed of items and of where they stand; where the core knows that they were read from a project, from that. */
  function take(view: View, opened?: Project): void {
    if (view.known && opened) takeOpened(view, opened)
    for (const { states: set, ...item } of view.items) {
      const was = items.get(item.id)
      if (was && JSON.stringify([was.frames, was.stops]) !== JSON.stringify([item.frames, item.stops])) layout.value++
      if (!was?.controls?.length !== !item.controls?.length) gathered.value++
      items.set(item.id, item)
      states.takeAll(item.id, set)
    }
    for (const { item, property, state } of view.states ?? []) states.take(item, property, state)
    for (const item of new Set((view.states ?? []).map((s) => s.item))) states.stamp(item)
    if (view.graphOrder || view.graphs) {
      const known = new Map([...graphs.value, ...(view.graphs ?? [])].map((g) => [g.id, g]))
      graphs.value = (view.graphOrder ?? graphs.value.map((g) => g.id)).flatMap((id) => known.get(id) ?? [])
    }
    if (JSON.stringify(view.compositions) !== JSON.stringify(compositions.value)) compositions.value = view.compositions
    if (view.structure) takeStructure(view.structure)
  }

  function clear(): void {
    items.clear()
    states.clear()
    vertices.forget()
    order.value = []
    graphs.value = []
  }

  return {
    read: {
      items,
      order,
      depths,
      slots,
      world,
      stride,
      staged,
      compositions,
      hidden,
      out,
      spreads,
      graphs,
      layout,
      kinds,
      indexes,
      controlled,
      nulls,
      nullNames,
      copied,
      ...asking({
        ofKind,
        specsOf,
        spec,
        controlOf,
        controlsOf,
        state: states.state,
        statesOf: states.statesOf,
        statesAt: states.statesAt,
        setOf: states.setOf,
        stampOf: states.stampOf,
        slotOf,
        numbers,
        spreadsOn,
        nameOf,
        verticesOf: vertices.verticesOf,
      }),
    },
    places,
    take,
    clear,
  }
}
