import { shallowReactive } from 'vue'
import type { Id, State } from '@/core/types'

type States = Record<string, State>

const emptyState: State = { own: null }
const noStates: States = {}

/** What was set of each property, apart from the items: what shows one property is drawn anew only when that one changes. */
export function useStates() {
  const known = shallowReactive(new Map<Id, States>())
  /** Grows with what is set of an item. No stamp ever comes again, whatever is opened and closed. */
  const stamps = shallowReactive(new Map<Id, number>())
  let epoch = 0 // what an item has of which nothing changed since it was opened

  const state = (item: Id, property: string): State => known.get(item)?.[property] ?? emptyState
  const statesOf = (item: Id): Readonly<States> => known.get(item) ?? noStates
  const stampOf = (item: Id): number => stamps.get(item) ?? epoch
  const stamp = (item: Id): void => void stamps.set(item, stampOf(item) + 1)

  /** Takes all that is set of an item. */
  function takeAll(item: Id, now: States = {}): void {
    const was = known.get(item)
    if (!was) return void known.set(item, shallowReactive(now))
    for (const property of Object.keys(was)) if (!(property in now)) delete was[property]
    for (const [property, state] of Object.entries(now)) if (JSON.stringify(was[property]) !== JSON.stringify(state)) was[property] = state
    stamp(item)
  }

  /** Takes what is set of one property; null: nothing any more. */
  function take(item: Id, property: string, now: State | null): void {
    const was = known.get(item)
    if (!was) return
    if (now) was[property] = now
    else delete was[property]
  }

  function forget(item: Id): void {
    known.delete(item)
    stamp(item) // it may come back
  }

  function clear(): void {
    for (const stamp of stamps.values()) epoch = Math.max(epoch, stamp)
    epoch++
    known.clear()
    stamps.clear()
  }

  return { state, statesOf, stampOf, stamp, takeAll, take, forget, clear }
}
