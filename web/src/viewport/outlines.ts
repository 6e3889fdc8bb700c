import { BufferGeometry, ShapeGeometry, ShapePath, Vector2 } from 'three'
import { mergeGeometries } from 'three/addons/utils/BufferGeometryUtils.js'
import { SVGLoader } from 'three/addons/loaders/SVGLoader.js'

/** The outline of an item as the core hands it over, in the item's own space. */
export interface Outline {
  index: number
  box: [left: number, bottom: number, right: number, top: number]
  verbs: Float32Array
  points: Float32Array
}

/** Takes the packed outlines of a frame apart; the layout is described in the bridge of the core. */
export function* unpack(packed: Float32Array): Generator<Outline> {
  let at = 0
  const next = (): number => packed[at++] as number
  while (at < packed.length) {
    const index = next()
    const box: Outline['box'] = [next(), next(), next(), next()]
    const verbCount = next()
    const pointCount = next()
    const verbs = packed.subarray(at, (at += verbCount))
    const points = packed.subarray(at, (at += pointCount))
    yield { index, box, verbs, points }
  }
}

/** How many straight pieces a curve is drawn with. */
const pieces = 16

/** The verbs, in the order of the core. */
const draw: ((path: ShapePath, p: number[]) => void)[] = [
  (path, p) => path.moveTo(p[0] as number, p[1] as number),
  (path, p) => path.lineTo(p[0] as number, p[1] as number),
  (path, p) => path.quadraticCurveTo(p[0] as number, p[1] as number, p[2] as number, p[3] as number),
  (path, p) => path.bezierCurveTo(p[0] as number, p[1] as number, p[2] as number, p[3] as number, p[4] as number, p[5] as number),
  () => {},
]
const sizes = [2, 2, 4, 6, 0]

function pathOf(outline: Outline): ShapePath {
  const path = new ShapePath()
  let at = 0
  for (const verb of outline.verbs) {
    const size = sizes[verb] as number
    ;(draw[verb] as (typeof draw)[number])(path, Array.from(outline.points.subarray(at, at + size)))
    at += size
  }
  return path
}

/** The surface inside an outline, by the nonzero rule. */
export function fillGeometry(outline: Outline): BufferGeometry {
  const path = pathOf(outline)
  if (!path.subPaths.length) return new BufferGeometry()
  return new ShapeGeometry(path.toShapes(), pieces)
}

/** The band along an outline, half of its width to either side. */
export function strokeGeometry(outline: Outline, width: number): BufferGeometry {
  const style = SVGLoader.getStrokeStyle(width, '#000', 'miter', 'butt', 4)
  const bands: BufferGeometry[] = []
  for (const sub of pathOf(outline).subPaths) {
    const points = sub.getPoints(pieces)
    const first = points[0]
    const last = points[points.length - 1]
    if (!first || !last || points.length < 2) continue
    if (first.distanceTo(last) > 1e-6) points.push(new Vector2(first.x, first.y))
    const band = SVGLoader.pointsToStroke(points, style)
    if (band) bands.push(band)
  }
  return (bands.length && mergeGeometries(bands)) || new BufferGeometry()
}
