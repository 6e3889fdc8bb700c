import { computed, ref, toRaw } from 'vue'
import type { GestureName, Gestures, Id, Point3 } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import type { Stage } from '@/viewport/stage'
import { dragging } from './drag'
import { nearest, type Bounds } from './snapping'

/** A line that something was snapped to: across the canvas at x, or along it at y. */
export interface Guide {
  x?: number
  y?: number
}

/** Moving, turning, scaling what is selected, with the pointer in the viewport. The core does the rest. */
export function useHandling(stage: () => Stage | null) {
  const doc = useDocument()
  const selection = useSelection()
  const guides = ref<Guide[]>([])
  /** The pivot of each kind. */
  const pivots = computed(() => new Map([...doc.kinds.values()].map((k) => [k.kind, k.specs.find((s) => s.key === 'pivot')])))

  const free = (): Id[] => selection.ids.filter((id) => !doc.items.get(id)?.locked)

  /** Tells where the middle or the pivot of items stands in the composition. What Vue watches is read once for all of them. */
  function places(): (id: Id) => Point3 {
    const { values, world, stride, indexes } = doc
    const [items, pivot] = [toRaw(doc.items), pivots.value]
    return (id) => {
      const w = world + stride * (indexes.get(id) ?? -1)
      const v = (k: number): number => values[w + k] ?? 0
      const spec = pivot.get(items.get(id)?.kind ?? 'null')
      const from = spec ? doc.slotOf(id, spec) : 0
      const [px, py, pz] = [values[from] ?? 0, values[from + 1] ?? 0, values[from + 2] ?? 0]
      return [
        v(0) * px + v(1) * py + v(2) * pz + v(3),
        v(4) * px + v(5) * py + v(6) * pz + v(7),
        v(8) * px + v(9) * py + v(10) * pz + v(11),
      ]
    }
  }
  const standing = (id: Id): Point3 => places()(id)

  /** The corners of an item's box, turned as it is, on the canvas, one after the other; null for what is not drawn. */
  function corners(id: Id): [number, number][] | null {
    const s = stage()
    const box = s?.box(id)
    const i = doc.indexes.get(id) ?? -1
    if (!s || !box || i < 0) return null
    const { values, world, stride } = doc // read once: each reading is watched by Vue
    const w = world + stride * i
    const v = (k: number): number => values[w + k] ?? 0
    const [l, b, r, t] = box
    const at: ([number, number] | null)[] = [
      [l, b],
      [r, b],
      [r, t],
      [l, t],
    ].map(([x = 0, y = 0]) => s.sights.project([v(0) * x + v(1) * y + v(3), v(4) * x + v(5) * y + v(7), v(8) * x + v(9) * y + v(11)]))
    return at.every((p) => p !== null) ? at : null
  }

  /** The upright box around an item, on the canvas; null for what is not drawn. */
  function bounds(id: Id): Bounds | null {
    const at = corners(id)
    if (!at) return null
    const xs = at.map((p) => p[0])
    const ys = at.map((p) => p[1])
    return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) }
  }

  /** Whether the box around an item, turned as it is, holds a point of the canvas. */
  function holds(id: Id, x: number, y: number): boolean {
    const at = corners(id)
    if (!at) return false
    const sides = at.map((p, k) => {
      const q = at[(k + 1) % 4] ?? p
      return (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0])
    })
    return sides.every((s) => s >= 0) || sides.every((s) => s <= 0)
  }

  function around(ids: Id[]): Bounds | null {
    const all = ids.map(bounds).filter((b): b is Bounds => b !== null)
    if (!all.length) return null
    return {
      left: Math.min(...all.map((b) => b.left)),
      right: Math.max(...all.map((b) => b.right)),
      top: Math.min(...all.map((b) => b.top)),
      bottom: Math.max(...all.map((b) => b.bottom)),
    }
  }

  /** What there is to snap to: the composition's frame and the other items. */
  function others(moved: Id[], frame: Bounds | null): Bounds[] {
    const list = frame ? [frame] : []
    for (const id of doc.order) {
      if (list.length > 150) break
      if (moved.includes(id) || doc.hidden.has(id)) continue
      const b = bounds(id)
      if (b) list.push(b)
    }
    return list
  }

  const clear = (): void => void (guides.value = [])

  function finish<G extends GestureName>(gesture: G, using: () => Gestures[G] | null): (moved: boolean) => void {
    return (moved) => {
      clear()
      const with_ = using()
      if (moved && with_) void doc.gesture(gesture, with_)
    }
  }

  function cancel(): void {
    clear()
    void doc.cancelPreview()
  }

  /** Drags what is selected. Shift keeps to one axis; Alt does without snapping. */
  function move(event: PointerEvent, frame: Bounds | null, click?: () => void): void {
    const ids = free()
    const s = stage()
    const [first] = ids
    if (!first || !s) return
    const box = around(ids)
    const near = box ? others(ids, frame) : []
    const from = standing(first)
    let by: Point3 = [0, 0, 0]
    dragging(
      event,
      (dx, dy, e) => {
        const axis = !e.shiftKey ? 'xy' : Math.abs(dx) > Math.abs(dy) ? 'x' : 'y'
        if (axis === 'x') dy = 0
        if (axis === 'y') dx = 0
        guides.value = []
        if (box && !e.altKey) {
          const snap = nearest(box, dx, dy, near)
          if (axis !== 'y') dx += snap.dx
          if (axis !== 'x') dy += snap.dy
          guides.value = snap.guides.filter((g) => axis.includes(g.x === undefined ? 'y' : 'x'))
        }
        by = s.sights.way(dx, dy, from)
        void doc.preview('move', { items: ids, by })
      },
      (moved) => {
        if (!moved) click?.()
        finish('move', () => ({ items: ids, by }))(moved)
      },
      cancel,
    )
  }

  /** Turns what is selected about its pivot; Shift in steps of 15 degrees. */
  function turn(event: PointerEvent, pivot: [number, number], start: [number, number]): void {
    const ids = free()
    const angle = (x: number, y: number): number => (Math.atan2(pivot[1] - y, x - pivot[0]) * 180) / Math.PI
    let last = angle(...start)
    let by = 0
    let kept = 0
    dragging(
      event,
      (dx, dy, e) => {
        const now = angle(start[0] + dx, start[1] + dy)
        let d = now - last
        d -= 360 * Math.round(d / 360) // many turns add up
        by += d
        last = now
        kept = e.shiftKey ? Math.round(by / 15) * 15 : Math.round(by * 10) / 10
        void doc.preview('turn', { items: ids, by: kept })
      },
      finish('turn', () => ({ items: ids, by: kept })),
      cancel,
    )
  }

  /** Scales what is selected about its pivot; Shift keeps the proportions. */
  function grow(
    event: PointerEvent,
    pivot: [number, number],
    corner: [number, number],
    axes: { x: [number, number]; y: [number, number] },
  ): void {
    const ids = free()
    const along = (p: [number, number], axis: [number, number]): number => (p[0] - pivot[0]) * axis[0] + (p[1] - pivot[1]) * axis[1]
    const was = { x: along(corner, axes.x), y: along(corner, axes.y) }
    let by: Point3 = [1, 1, 1]
    dragging(
      event,
      (dx, dy, e) => {
        const now: [number, number] = [corner[0] + dx, corner[1] + dy]
        let x = Math.abs(was.x) > 3 ? along(now, axes.x) / was.x : 1
        let y = Math.abs(was.y) > 3 ? along(now, axes.y) / was.y : 1
        if (e.shiftKey) {
          const k = Math.abs(was.x) > Math.abs(was.y) ? x : y
          x = y = k
        }
        const clean = (k: number): number => Math.round(k * 1e4) / 1e4
        by = [clean(x), clean(y), 1]
        void doc.preview('grow', { items: ids, by })
      },
      finish('grow', () => ({ items: ids, by })),
      cancel,
    )
  }

  /** Drags the pivot of one item, which stays where it is itself. */
  function pivot(
    event: PointerEvent,
    id: Id,
    toLocal: (x: number, y: number, free: boolean) => Point3 | null,
    start: [number, number],
  ): void {
    let at: Point3 | null = null
    dragging(
      event,
      (dx, dy, e) => {
        at = toLocal(start[0] + dx, start[1] + dy, e.altKey)
        if (at) void doc.preview('pivot', { items: [id], at })
      },
      finish('pivot', () => at && { items: [id], at }),
      cancel,
    )
  }

  function nudge(dx: number, dy: number): void {
    const items = free()
    if (items.length) void doc.gesture('move', { items, by: [dx, dy, 0] })
  }

  return { guides, move, turn, grow, pivot, nudge, places, standing, bounds, holds, around }
}
