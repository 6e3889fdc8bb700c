import { computed } from 'vue'
import { lineThrough, usePlaces, type Spot } from '@/composables/places'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import type { Stage } from '@/viewport/stage'

/** How many frames, and numbers of members that are not selected, are drawn. */
export const most = 400
const tick = 9

/** The frames of what is selected, as of the frame that was drawn last; of a crowd that of the last, and one around all. */
export function useSelectionFrames(stage: () => Stage, drawn: () => number) {
  const doc = useDocument()
  const selection = useSelection()
  const graphs = useGraphs()
  const { spot } = usePlaces(stage)
  const crowd = computed(() => selection.ids.length > most)

  const frames = computed(() => {
    void drawn()
    const pointed = graphs.pointed.filter((id) => !selection.has(id)) // of slips that are picked
    const own = crowd.value ? selection.ids.slice(-1) : selection.ids // the one with the handles
    return [...own, ...pointed].flatMap((id, n) => {
      const i = doc.indexes.get(id)
      const box = stage().box(id)
      if (i === undefined || !box) return []
      const [l, b, r, t] = box
      const [back, front] = stage().depth(id)
      const at = (z: number): (Spot | null)[] =>
        [
          [l, b, z],
          [r, b, z],
          [r, t, z],
          [l, t, z],
        ].map((p) => spot(i, p))
      const corners = at(front)
      if (corners.some((c) => !c)) return []
      const c = corners as Spot[]
      const ticks = c.map((corner, k) => {
        const toward = (other: Spot): string => {
          const d = Math.hypot(other[0] - corner[0], other[1] - corner[1]) || 1
          const share = Math.min(0.5, tick / d)
          return `${corner[0] + (other[0] - corner[0]) * share} ${corner[1] + (other[1] - corner[1]) * share}`
        }
        return `M${toward(c[(k + 3) % 4] as Spot)}L${corner[0]} ${corner[1]}L${toward(c[(k + 1) % 4] as Spot)}`
      })
      const deep = front - back > 0.5 ? at(back) : null
      const outline =
        lineThrough(c, true) + (deep ? lineThrough(deep, true) + c.map((s, k) => lineThrough([s, deep[k] ?? null])).join('') : '')
      if (n >= own.length) return [{ id, n: 0, outline, ticks: [], corners: c, label: c[2] as Spot }]
      return [{ id, n: n + 1, outline, ticks, corners: c, label: c[2] as Spot }]
    })
  })

  /** The frame around all of a crowd. */
  const around = computed(() => {
    void drawn()
    if (!crowd.value) return ''
    let [left, low, right, high] = [Infinity, Infinity, -Infinity, -Infinity]
    for (const id of selection.ids) {
      const i = doc.indexes.get(id)
      const box = stage().box(id)
      if (i === undefined || !box) continue
      for (const k of [0, 1, 2, 3]) {
        const at = spot(i, [box[k & 1 ? 2 : 0], box[k & 2 ? 3 : 1]])
        if (!at) continue
        left = Math.min(left, at[0])
        right = Math.max(right, at[0])
        low = Math.min(low, at[1])
        high = Math.max(high, at[1])
      }
    }
    return left < right ? `M${left} ${low}H${right}V${high}H${left}Z` : ''
  })

  return { frames, around }
}
