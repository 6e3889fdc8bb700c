import { ref, shallowReactive, toRaw } from 'vue'
import type { Id, Ref, State } from '@/core/types'

type States = Record<string, State>

const emptyState: State = { own: null }
const noStates: States = {}

/** What was set of each property, apart from the items: what shows one property is drawn anew only when that one changes. */
export function useStates() {
  const known = shallowReactive(new Map<Id, States>())
  /** Grows with what is set of an item. No stamp ever comes again, whatever is opened and closed. */
  const stamps = shallowReactive(new Map<Id, number>())
  let epoch = 0 // what an item has of which nothing changed since it was opened

  /** Grows with every change of what is set of a property of any item. */
  const versions = shallowReactive(new Map<string, number>())
  /** Grows when something is set that was not, or no longer. */
  const sets = ref(0)
  function changed(property: string, was: State | undefined, now: State | undefined): void {
    versions.set(property, (versions.get(property) ?? 0) + 1)
    if (!was !== !now) sets.value++
  }
  const many = 60 // of which each would be watched by itself

  const state = (item: Id, property: string): State => known.get(item)?.[property] ?? emptyState
  const statesOf = (item: Id): Readonly<States> => known.get(item) ?? noStates
  const stampOf = (item: Id): number => stamps.get(item) ?? epoch
  const stamp = (item: Id): void => void stamps.set(item, stampOf(item) + 1)

  /** What is set of a property of each of some items: of many, so that all are looked at again when anything changes. */
  function statesAt(refs: readonly Ref[]): State[] {
    if (refs.length <= many) return refs.map((r) => state(r.item, r.property))
    for (const key of new Set(refs.map((r) => r.property))) void versions.get(key)
    const raw = toRaw(known)
    return refs.map((r) => toRaw(raw.get(r.item))?.[r.property] ?? emptyState)
  }
  /** The properties of which something is set of any of some items, likewise. */
  function setOf(ids: readonly Id[]): Set<string> {
    const out = new Set<string>()
    if (ids.length > many) void sets.value
    for (const id of ids) {
      const set = ids.length > many ? toRaw(toRaw(known).get(id)) : known.get(id)
      for (const key in set) out.add(key)
    }
    return out
  }

  function add(item: Id, now: States): void {
    known.set(item, shallowReactive(now))
    for (const property of Object.keys(now)) changed(property, undefined, now[property])
  }
  /** Takes all that is set of an item. */
  function takeAll(item: Id, now: States = {}): void {
    const was = known.get(item)
    if (!was) return add(item, now)
    for (const property of Object.keys(was)) if (!(property in now)) take(item, property, null)
    for (const [property, state] of Object.entries(now))
      if (JSON.stringify(was[property]) !== JSON.stringify(state)) take(item, property, state)
    stamp(item)
  }

  /** Takes what is set of one property; null: nothing any more. */
  function take(item: Id, property: string, now: State | null): void {
    const was = known.get(item)
    if (!was) return
    changed(property, was[property], now ?? undefined)
    if (now) was[property] = now
    else delete was[property]
  }

  function forget(item: Id): void {
    for (const property of Object.keys(known.get(item) ?? noStates)) changed(property, emptyState, undefined)
    known.delete(item)
    stamp(item) // it may come back
  }

  function clear(): void {
    for (const stamp of stamps.values()) epoch = Math.max(epoch, stamp)
    epoch++
    versions.clear()
    sets.value++
    known.clear()
    stamps.clear()
  }

  return { state, statesOf, statesAt, setOf, stampOf, stamp, takeAll, take, forget, clear }
}
