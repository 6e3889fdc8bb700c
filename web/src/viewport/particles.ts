import {
  BufferAttribute,
  DoubleSide,
  DynamicDrawUsage,
  GLSL3,
  InstancedBufferGeometry,
  InstancedInterleavedBuffer,
  InterleavedBufferAttribute,
  Mesh,
  RawShaderMaterial,
} from 'three'
import type { Reader } from './actors'

/** How many numbers a particle has: place, size, speed in x and y, colour. */
const stride = 10

const vertex = `
  precision highp float;
  uniform mat4 viewMatrix, projectionMatrix;
  uniform bool turned;
  in vec2 corner;
  in vec3 place;
  in float size;
  in vec2 moving;
  in vec4 colour;
  out vec2 at;
  out vec4 paint;
  void main() {
    at = corner;
    paint = colour;
    vec2 along = turned && length(moving) > 0.0 ? normalize(moving) : vec2(1.0, 0.0);
    vec2 q = turned ? vec2(corner.x * 2.4, corner.y * 0.5) : corner;
    vec2 spread = (q.x * along + q.y * vec2(-along.y, along.x)) * size * 0.5;
    gl_Position = projectionMatrix * (viewMatrix * vec4(place, 1.0) + vec4(spread, 0.0, 0.0));
  }
`

const fragment = `
  precision highp float;
  uniform int look;
  uniform float opacity;
  in vec2 at;
  in vec4 paint;
  out vec4 colour;
  void main() {
    float d = length(at);
    float edge = max(fwidth(d) * 1.2, 0.02);
    float cover = 1.0;
    if (look == 0 || look == 4) cover = 1.0 - smoothstep(1.0 - edge, 1.0, d);
    if (look == 2) { // five points: the reach falls from tip to notch
      float turn = mod(atan(at.x, at.y) + 0.62832, 1.256637) - 0.62832;
      float reach = mix(1.0, 0.42, abs(turn) / 0.62832);
      cover = 1.0 - smoothstep(reach - edge, reach, d);
    }
    if (look == 3) cover = smoothstep(0.66 - edge, 0.66, d) * (1.0 - smoothstep(1.0 - edge, 1.0, d));
    colour = vec4(paint.rgb, paint.a * opacity * cover); // sRGB, written as it is shown
    if (colour.a <= 0.002) discard;
  }
`

/** The particles of one emitter: one quad for each, facing the viewer. */
export class Particles {
  readonly mesh: Mesh<InstancedBufferGeometry, RawShaderMaterial>
  readonly meshes: Mesh[]
  readonly manner = 'own'
  private buffer: InstancedInterleavedBuffer | null = null

  constructor(id: string) {
    const geometry = new InstancedBufferGeometry()
    geometry.setAttribute('corner', new BufferAttribute(new Float32Array([-1, -1, 1, -1, 1, 1, -1, 1]), 2))
    geometry.setIndex([0, 1, 2, 0, 2, 3])
    const material = new RawShaderMaterial({
      vertexShader: vertex,
      fragmentShader: fragment,
      glslVersion: GLSL3,
      transparent: true,
      depthWrite: false,
      side: DoubleSide,
      forceSinglePass: true,
      uniforms: { look: { value: 0 }, opacity: { value: 1 }, turned: { value: false } },
    })
    this.mesh = new Mesh(geometry, material)
    this.meshes = [this.mesh]
    this.mesh.frustumCulled = false
    this.mesh.userData.id = id
    this.mesh.raycast = () => {} // an emitter is picked by its drawing
    this.take(new Float32Array())
  }

  /** Takes over the particles of a frame. The buffer on the card grows by doubling and is used again. */
  take(packed: Float32Array): void {
    const { geometry } = this.mesh
    const n = packed.length / stride
    geometry.instanceCount = n
    this.mesh.visible = n > 0
    if (n === 0) return
    if (!this.buffer || this.buffer.count < n) {
      let room = 64
      while (room < n) room *= 2
      this.buffer = new InstancedInterleavedBuffer(new Float32Array(room * stride), stride, 1)
      this.buffer.setUsage(DynamicDrawUsage)
      geometry.dispose() // what stood on the card for the smaller one
      geometry.setAttribute('place', new InterleavedBufferAttribute(this.buffer, 3, 0))
      geometry.setAttribute('size', new InterleavedBufferAttribute(this.buffer, 1, 3))
      geometry.setAttribute('moving', new InterleavedBufferAttribute(this.buffer, 2, 4))
      geometry.setAttribute('colour', new InterleavedBufferAttribute(this.buffer, 4, 6))
    }
    this.buffer.array.set(packed)
    this.buffer.clearUpdateRanges()
    this.buffer.addUpdateRange(0, packed.length)
    this.buffer.needsUpdate = true
  }

  update(r: Reader, order: number): void {
    const { uniforms } = this.mesh.material
    const look = r.n('particle')
    if (uniforms.look) uniforms.look.value = look
    if (uniforms.turned) uniforms.turned.value = look === 4
    if (uniforms.opacity) uniforms.opacity.value = r.n('opacity') / 100
    this.mesh.renderOrder = 2 * order
  }

  dispose(): void {
    this.mesh.geometry.dispose()
    this.mesh.material.dispose()
  }
}

/** Takes the packed particles of a frame apart: for each emitter its index, their number, then they themselves. */
export function* emitters(packed: Float32Array): Generator<{ index: number; particles: Float32Array }> {
  let at = 0
  while (at < packed.length) {
    const index = packed[at++] as number
    const n = (packed[at++] as number) * stride
    yield { index, particles: packed.slice(at, (at += n)) }
  }
}
