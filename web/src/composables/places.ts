import type { Id, Point3 } from '@/core/types'
import { useDocument } from '@/stores/document'
import type { Stage } from '@/viewport/stage'

export type Spot = [x: number, y: number]

/** Where places of items lie on the canvas, as of the frame that was drawn last. */
export function usePlaces(stage: () => Stage) {
  const doc = useDocument()

  /** A place of an item's own space, in the composition. */
  function world(index: number, at: readonly number[]): Point3 {
    const { values, world: first, stride } = doc // read once: each reading is watched by Vue
    const w = first + stride * index
    const v = (k: number): number => values[w + k] ?? 0
    const [x = 0, y = 0, z = 0] = at
    return [v(0) * x + v(1) * y + v(2) * z + v(3), v(4) * x + v(5) * y + v(6) * z + v(7), v(8) * x + v(9) * y + v(10) * z + v(11)]
  }

  const spot = (index: number, at: readonly number[]): Spot | null => stage().sights.project(world(index, at))
  const onCanvas = (at: readonly number[]): Spot | null => stage().sights.project(at)

  /** The numbers of a property of an item. */
  function values(id: Id, key: string): number[] {
    const spec = doc.spec(id, key)
    return spec ? doc.numbers(id, spec) : []
  }

  return { world, spot, onCanvas, values }
}

/** A path through places on the canvas; empty where one of them is out of sight. */
export function lineThrough(spots: (Spot | null)[], closed = false): string {
  if (spots.some((s) => !s)) return ''
  return 'M' + spots.map((s) => (s as Spot).map((x) => x.toFixed(1)).join(' ')).join('L') + (closed ? 'Z' : '')
}
