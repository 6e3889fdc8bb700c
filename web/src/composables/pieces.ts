import type { Composition, Id } from '@/core/types'

/** The compositions that can be shown in one as pieces: all others that don't show it themselves, be it by way of others. */
export function fitting(all: readonly Composition[], within: Id): Composition[] {
  const around = new Set([within])
  for (let before = 0; before < around.size;) {
    before = around.size
    for (const c of all) if (c.shows?.some((id) => around.has(id))) around.add(c.id)
  }
  return all.filter((c) => !around.has(c.id) && !c.reading)
}
