import { useVueFlow } from '@vue-flow/core'
import { nextTick } from 'vue'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useWorkspace } from '@/stores/workspace'

/**
 * Brings slips into sight, beside or above the small picture where the sheet is pulled up: no smaller than can be read, which shows what is
 * picked or what is driven where there is no room for all; asked once more where it stands so already, all of them, however small.
 */
export function useFitting(): { all: () => Promise<void>; first: () => void } {
  const workspace = useWorkspace()
  const doc = useDocument()
  const { nodes, dimensions, setViewport, viewport } = useVueFlow('sheet')
  const graphs = useGraphs()
  const room = 1.1
  const margin = 18 // around the small picture
  const readable = 0.92 // type of 12 px is 11 then

  function fit(least: number, tries = 5): void {
    const rects = nodes.value
    if (!rects.length) return
    if (tries && rects.some((n) => !n.dimensions.width)) return void setTimeout(() => fit(least, tries - 1), 40) // until all are measured
    const left = Math.min(...rects.map((n) => n.position.x))
    const top = Math.min(...rects.map((n) => n.position.y))
    const w = Math.max(...rects.map((n) => n.position.x + (n.dimensions.width || 190))) - left
    const h = Math.max(...rects.map((n) => n.position.y + (n.dimensions.height || 110))) - top
    const { width, height } = dimensions.value
    const rooms = workspace.pulled
      ? [
          { width: width - workspace.pictureWidth - margin, height },
          { width, height: height - workspace.pictureHeight - margin },
        ]
      : [{ width, height }]
    const best = rooms
      .map((r) => ({ ...r, zoom: Math.min(1, r.width / (w * room), r.height / (h * room)) }))
      .reduce((a, b) => (b.zoom > a.zoom ? b : a))
    const zoom = Math.max(least, best.zoom)
    // What has no room on the left is what is read, not what is driven.
    let x = Math.min((best.width - w * zoom) / 2, best.width - 24 - w * zoom) - left * zoom
    let y = Math.max(16, (best.height - h * zoom) / 2) - top * zoom
    const picked = zoom > best.zoom && rects.find((n) => graphs.picked.includes(n.id))
    if (picked) {
      x = best.width / 2 - (picked.position.x + picked.dimensions.width / 2) * zoom
      y = best.height / 2 - (picked.position.y + picked.dimensions.height / 2) * zoom
    }
    void setViewport({ x: Math.round(x), y: Math.round(y), zoom })
  }
  /** As it will be when what was asked for just now, a layout perhaps, is there. */
  async function all(): Promise<void> {
    await doc.answered()
    await nextTick()
    const before = { ...viewport.value }
    fit(readable, 0)
    const { x, y, zoom } = viewport.value
    if (x === before.x && y === before.y && zoom === before.zoom) fit(0.1)
  }
  return { all, first: () => fit(readable) }
}
