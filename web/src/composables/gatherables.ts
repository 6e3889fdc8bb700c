import { shallowRef, type ShallowRef } from 'vue'
import { core } from '@/core/client'
import type { Gatherable, GatheredRead } from '@/core/types'

/** A property of many items, whose values a formula gathers. */
export interface GatheredEnd extends GatheredRead {
  /** As a formula names it, without braces. */
  full: string
  count: number
}

/** The properties of many that the composition offers, as it was when they were asked for last. */
export function useGatherables(): { gatherable: ShallowRef<GatheredEnd[]>; ask: () => Promise<void> } {
  const gatherable = shallowRef<GatheredEnd[]>([])
  const written = (name: string): string => (/[:{}~@"]/.test(name) ? `"${name.replaceAll('"', "'")}"` : name)
  async function ask(): Promise<void> {
    const sets: Gatherable[] = (await core.ask('gatherables', null)).result ?? []
    gatherable.value = sets.flatMap((set) =>
      set.reads.map((read) => ({ ...read, full: `${set.owner}: ${written(read.name)}`, count: set.count })),
    )
  }
  return { gatherable, ask }
}
