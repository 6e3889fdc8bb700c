import { BufferAttribute, BufferGeometry, ShapePath, Vector2 } from 'three'
import { SVGLoader } from 'three/addons/loaders/SVGLoader.js'
import { mergeGeometries } from 'three/addons/utils/BufferGeometryUtils.js'
import libtess from 'libtess'

/** Left, bottom, right, top in an item's own space. */
export type Box = [left: number, bottom: number, right: number, top: number]

/** The outline of a flat item as the core hands it over, in the item's own space. */
export interface Outline {
  box: Box
  verbs: Float32Array
  points: Float32Array
}

/** The surface of an object. */
export interface Surface {
  places: Float32Array
  normals: Float32Array
  uvs: Float32Array
  index: Uint32Array
}

/** A piece of the shape of an item: of its own, or of another form that copies show it in. */
export type Record = { index: number; form: number } & (
  { kind: 'surface' | 'line'; outline: Outline } | { kind: 'edge' } | { kind: 'mesh'; mesh: Surface }
)

/** Takes the packed shapes of a frame apart; their layout is described in the bridge of the core. */
export function* unpack(packed: Float32Array): Generator<Record> {
  let at = 0
  const next = (): number => packed[at++] as number
  const take = (n: number): Float32Array => packed.slice(at, (at += n))
  let form = 0
  let formOf = -1
  while (at < packed.length) {
    const index = next()
    const kind = next()
    if (kind === 4) {
      form = next()
      formOf = index
      continue
    }
    const head = { index, form: index === formOf ? form : 0 }
    if (kind === 2) yield { ...head, kind: 'edge' }
    else if (kind === 3) {
      const corners = next()
      const indices = next()
      yield {
        ...head,
        kind: 'mesh',
        mesh: { places: take(3 * corners), normals: take(3 * corners), uvs: take(2 * corners), index: Uint32Array.from(take(indices)) },
      }
    } else {
      const box: Box = [next(), next(), next(), next()]
      const verbs = next()
      const points = next()
      yield { ...head, kind: kind === 0 ? 'surface' : 'line', outline: { box, verbs: take(verbs), points: take(points) } }
    }
  }
}

/** The verbs, in the order of the core, and how many coordinates each takes. */
const draw: ((path: ShapePath, p: Float32Array) => void)[] = [
  (path, p) => path.moveTo(p[0] as number, p[1] as number),
  (path, p) => path.lineTo(p[0] as number, p[1] as number),
  (path, p) => path.quadraticCurveTo(p[0] as number, p[1] as number, p[2] as number, p[3] as number),
  (path, p) => path.bezierCurveTo(p[0] as number, p[1] as number, p[2] as number, p[3] as number, p[4] as number, p[5] as number),
  () => {},
]
const sizes = [2, 2, 4, 6, 0]
const closing = 4

interface Line {
  points: Vector2[]
  closed: boolean
}

/** How many straight pieces a curve is drawn with. */
const pieces = 14

/** The contours of an outline, their curves cut into straight pieces. */
function linesOf(outline: Outline): Line[] {
  const path = new ShapePath()
  const closed: boolean[] = []
  let at = 0
  for (const verb of outline.verbs) {
    const size = sizes[verb] as number
    ;(draw[verb] as (typeof draw)[number])(path, outline.points.subarray(at, at + size))
    if (verb === 0) closed.push(false)
    if (verb === closing) closed[closed.length - 1] = true
    at += size
  }
  return path.subPaths.map((sub, i) => ({ points: sub.getPoints(pieces), closed: closed[i] === true }))
}

/** A corner of triangles: its place, and its number once it has one. */
type Corner = [x: number, y: number, z: number, number: number]

/** Flat triangles that share their corners. */
class Triangles {
  readonly xy: number[] = []
  readonly index: number[] = []

  add(v: Corner): void {
    if (v[3] < 0) {
      v[3] = this.xy.length / 2
      this.xy.push(v[0], v[1])
    }
    this.index.push(v[3])
  }
}

type Tess = InstanceType<typeof libtess.GluTesselator>
let tess: Tess | null = null

function tesselator(): Tess {
  if (tess) return tess
  tess = new libtess.GluTesselator()
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_VERTEX_DATA, (v: Corner, out: Triangles) => out.add(v))
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_COMBINE, ([x, y]: number[]): Corner => [x as number, y as number, 0, -1])
  tess.gluTessCallback(libtess.gluEnum.GLU_TESS_EDGE_FLAG, () => {}) // asks for plain triangles
  tess.gluTessNormal(0, 0, 1)
  return tess
}

/** The surface inside an outline, by the nonzero or the even-odd rule. */
export function fillGeometry(outline: Outline, evenOdd: boolean): BufferGeometry {
  const t = tesselator()
  t.gluTessProperty(
    libtess.gluEnum.GLU_TESS_WINDING_RULE,
    evenOdd ? libtess.windingRule.GLU_TESS_WINDING_ODD : libtess.windingRule.GLU_TESS_WINDING_NONZERO,
  )
  const triangles = new Triangles()
  t.gluTessBeginPolygon(triangles)
  for (const line of linesOf(outline)) {
    t.gluTessBeginContour()
    for (const p of line.points) {
      const v: Corner = [p.x, p.y, 0, -1]
      t.gluTessVertex(v, v)
    }
    t.gluTessEndContour()
  }
  t.gluTessEndPolygon()
  return flatGeometry(triangles.xy, triangles.index)
}

/** A flat geometry of triangles, facing the viewer. */
function flatGeometry(xy: number[], index: number[]): BufferGeometry {
  const n = xy.length / 2
  const places = new Float32Array(3 * n)
  const normals = new Float32Array(3 * n)
  for (let i = 0; i < n; i++) {
    places[3 * i] = xy[2 * i] as number
    places[3 * i + 1] = xy[2 * i + 1] as number
    normals[3 * i + 2] = 1
  }
  const g = new BufferGeometry()
  g.setAttribute('position', new BufferAttribute(places, 3))
  g.setAttribute('normal', new BufferAttribute(normals, 3))
  return g.setIndex(index)
}

export const caps = ['butt', 'round', 'square'] as const
export const joins = ['miter', 'round', 'bevel'] as const

/** The band along an outline, half of its width to either side. */
export function strokeGeometry(outline: Outline, width: number, cap: number, join: number): BufferGeometry {
  const style = SVGLoader.getStrokeStyle(width, '#000', joins[join] ?? 'miter', caps[cap] ?? 'butt', 4)
  const bands: BufferGeometry[] = []
  for (const line of linesOf(outline)) {
    const points = line.points.filter((p, i) => i === 0 || p.distanceTo(line.points[i - 1] as Vector2) > 1e-5)
    const [first] = points
    const last = points[points.length - 1]
    if (!first || !last || points.length < 2) continue
    if (line.closed && first.distanceTo(last) > 1e-5) points.push(first.clone())
    else if (line.closed) points[points.length - 1] = first.clone() // ends exactly where it began: no cap there
    const band = SVGLoader.pointsToStroke(points, style)
    if (band) bands.push(band)
  }
  return (bands.length && mergeGeometries(bands)) || new BufferGeometry()
}

/** A rectangle with the whole of a picture on it. */
export function pictureGeometry([left, bottom, right, top]: Box): BufferGeometry {
  const g = flatGeometry([left, bottom, right, bottom, right, top, left, top], [0, 1, 2, 0, 2, 3])
  g.setAttribute('uv', new BufferAttribute(new Float32Array([0, 0, 1, 0, 1, 1, 0, 1]), 2))
  return g
}

export function meshGeometry(mesh: Surface): BufferGeometry {
  const g = new BufferGeometry()
  g.setAttribute('position', new BufferAttribute(mesh.places, 3))
  g.setAttribute('normal', new BufferAttribute(mesh.normals, 3))
  g.setAttribute('uv', new BufferAttribute(mesh.uvs, 2))
  g.setIndex(new BufferAttribute(mesh.index, 1))
  g.computeBoundingBox()
  return g
}
