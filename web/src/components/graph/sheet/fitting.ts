import { useVueFlow } from '@vue-flow/core'
import { useWorkspace } from '@/stores/workspace'

/** Brings all slips into sight, beside the small picture where the sheet is pulled up. */
export function useFitting(): () => void {
  const workspace = useWorkspace()
  const { getNodes, dimensions, setViewport } = useVueFlow('sheet')
  const picture = 250
  const room = 1.15
  return () => {
    const rects = getNodes.value.filter((n) => n.dimensions.width)
    if (!rects.length) return
    const left = Math.min(...rects.map((n) => n.position.x))
    const top = Math.min(...rects.map((n) => n.position.y))
    const w = Math.max(...rects.map((n) => n.position.x + n.dimensions.width)) - left
    const h = Math.max(...rects.map((n) => n.position.y + n.dimensions.height)) - top
    const width = dimensions.value.width - (workspace.pulled ? picture : 0)
    const { height } = dimensions.value
    const zoom = Math.max(0.1, Math.min(1, width / (w * room), height / (h * room)))
    void setViewport({ x: (width - w * zoom) / 2 - left * zoom, y: (height - h * zoom) / 2 - top * zoom, zoom })
  }
}
