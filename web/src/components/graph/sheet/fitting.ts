import { useVueFlow } from '@vue-flow/core'
import { nextTick } from 'vue'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'

/** Brings all slips into sight, beside or above the small picture where the sheet is pulled up; at first no smaller than can be read. */
export function useFitting(): { all: () => Promise<void>; first: () => void } {
  const workspace = useWorkspace()
  const doc = useDocument()
  const { nodes, dimensions, setViewport } = useVueFlow('sheet')
  const picture = { width: 250, height: 170 }
  const room = 1.1
  const readable = 0.7

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
          { width: width - picture.width, height },
          { width, height: height - picture.height },
        ]
      : [{ width, height }]
    const best = rooms
      .map((r) => ({ ...r, zoom: Math.min(1, r.width / (w * room), r.height / (h * room)) }))
      .reduce((a, b) => (b.zoom > a.zoom ? b : a))
    const zoom = Math.max(least, best.zoom)
    // What has no room on the left is what is read, not what is driven.
    const x = Math.min((best.width - w * zoom) / 2, best.width - 24 - w * zoom)
    void setViewport({ x: x - left * zoom, y: Math.max(16, (best.height - h * zoom) / 2) - top * zoom, zoom })
  }
  /** As it will be when what was asked for just now, a layout perhaps, is there. */
  async function all(): Promise<void> {
    await doc.answered()
    await nextTick()
    fit(0.1)
  }
  return { all, first: () => fit(readable) }
}
