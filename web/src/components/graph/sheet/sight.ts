import { useVueFlow } from '@vue-flow/core'
import { watchDebounced } from '@vueuse/core'
import { onBeforeUnmount } from 'vue'
import { useGraphs } from '@/stores/graphs'

/**
 * Tells the store which slips are in sight, and what leads to them: only these are asked for values, and none where they are
 * too small to be read.
 */
export function useSight(): void {
  const graphs = useGraphs()
  const { nodes, viewport, dimensions } = useVueFlow('sheet')
  const margin = 40
  const readable = 0.3

  graphs.sight = () => {
    const { x, y, zoom } = viewport.value
    if (zoom < readable) return []
    const { width, height } = dimensions.value
    const seen = new Set<string>()
    for (const n of nodes.value) {
      const left = n.position.x * zoom + x
      const top = n.position.y * zoom + y
      const right = left + (n.dimensions.width || 200) * zoom
      const bottom = top + (n.dimensions.height || 200) * zoom
      if (right < -margin || bottom < -margin || left > width + margin || top > height + margin) continue
      if (graphs.slips.get(n.id)?.kind === 'fold') for (const s of graphs.withInner([n.id])) seen.add(s.id)
      else seen.add(n.id)
    }
    for (const w of graphs.wires) if (seen.has(w.to)) seen.add(w.from)
    return [...seen].filter((id) => graphs.given.get(id)?.outs.length)
  }
  // What comes into sight may have been at another frame.
  watchDebounced(viewport, () => void graphs.revalue(), { debounce: 80, deep: true })
  onBeforeUnmount(() => (graphs.sight = null))
}
