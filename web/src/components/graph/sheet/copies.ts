import { useVueFlow } from '@vue-flow/core'
import { useGraphs } from '@/stores/graphs'

/** Puts the slips that are picked down once more, below where they lie. */
export function useCopies(): { duplicate: () => Promise<void> } {
  const graphs = useGraphs()
  const { findNode } = useVueFlow('sheet')
  return {
    duplicate: async () => {
      const rects = graphs.picked.flatMap((id) => {
        const s = graphs.slips.get(id)
        return s ? [{ top: s.at[1], bottom: s.at[1] + (findNode(id)?.dimensions.height || 90) }] : []
      })
      const height = Math.max(...rects.map((r) => r.bottom)) - Math.min(...rects.map((r) => r.top))
      if (rects.length) await graphs.duplicate([0, Math.round(height) + 24])
    },
  }
}
