import { computed } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import type { Span } from './spanShape'

/** The span that is open to be shaped, where it is of one of some items: from the pin that is picked alone to the one behind it. */
export function useOpenSpan(of: () => Id[]) {
  const doc = useDocument()
  const selection = useSelection()
  const workspace = useWorkspace()
  return computed<Span | null>(() => {
    const [p, more] = selection.pins
    if (!workspace.spanOpen || !p || more || !of().includes(p.item)) return null
    const pins = doc.state(p.item, p.property).pins ?? []
    const k = pins.findIndex((q) => q.frame === p.frame)
    const [pin, next] = [pins[k], pins[k + 1]]
    return pin && next ? { item: p.item, property: p.property, pin, next } : null
  })
}
