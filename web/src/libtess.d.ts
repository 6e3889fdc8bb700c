declare module 'libtess' {
  class GluTesselator {
    gluTessCallback(which: number, callback: (...args: never[]) => unknown): void
    gluTessProperty(which: number, value: number): void
    gluTessNormal(x: number, y: number, z: number): void
    gluTessBeginPolygon(data: object): void
    gluTessBeginContour(): void
    gluTessVertex(at: number[], data: number[]): void
    gluTessEndContour(): void
    gluTessEndPolygon(): void
  }
  const libtess: {
    GluTesselator: typeof GluTesselator
    windingRule: { GLU_TESS_WINDING_ODD: number; GLU_TESS_WINDING_NONZERO: number }
    gluEnum: { GLU_TESS_VERTEX_DATA: number; GLU_TESS_COMBINE: number; GLU_TESS_EDGE_FLAG: number; GLU_TESS_WINDING_RULE: number }
  }
  export default libtess
}
