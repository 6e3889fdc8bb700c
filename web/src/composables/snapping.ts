/** A box on the canvas, in CSS pixels. */
export interface Bounds {
  left: number
  right: number
  top: number
  bottom: number
}

/** How near two lines have to be to snap, in CSS pixels. */
const reach = 6

function lines(b: Bounds): { x: number[]; y: number[] } {
  return { x: [b.left, (b.left + b.right) / 2, b.right], y: [b.top, (b.top + b.bottom) / 2, b.bottom] }
}

function pull(mine: number[], by: number, others: number[]): { by: number; at: number } | null {
  let best: { by: number; at: number } | null = null
  for (const m of mine) {
    for (const o of others) {
      const d = o - (m + by)
      if (Math.abs(d) <= reach && (!best || Math.abs(d) < Math.abs(best.by))) best = { by: d, at: o }
    }
  }
  return best
}

/** How much further a box that is moved goes, so that an edge or its middle meets one of another box. */
export function nearest(
  box: Bounds,
  dx: number,
  dy: number,
  others: Bounds[],
): { dx: number; dy: number; guides: { x?: number; y?: number }[] } {
  const mine = lines(box)
  const theirs = others.map(lines)
  const x = pull(
    mine.x,
    dx,
    theirs.flatMap((l) => l.x),
  )
  const y = pull(
    mine.y,
    dy,
    theirs.flatMap((l) => l.y),
  )
  return { dx: x?.by ?? 0, dy: y?.by ?? 0, guides: [...(x ? [{ x: x.at }] : []), ...(y ? [{ y: y.at }] : [])] }
}
