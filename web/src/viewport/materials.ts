import {
  DoubleSide,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  Vector2,
  type Material,
  type Texture,
  type WebGLProgramParametersWithUniforms,
} from 'three'

/** What of a material takes another program. */
export interface Sort {
  lit: boolean
  solid: boolean
  gradient: boolean
  picture: boolean
}

export interface GradientUniforms {
  gradientRamp: { value: Texture | null }
  gradientFrom: { value: Vector2 }
  gradientTo: { value: Vector2 }
  gradientWidth: { value: number }
  gradientRadial: { value: boolean }
}

export type SurfaceMaterial = (MeshBasicMaterial | MeshLambertMaterial | MeshStandardMaterial) & { map: Texture | null }

export function gradientUniforms(): GradientUniforms {
  return {
    gradientRamp: { value: null },
    gradientFrom: { value: new Vector2() },
    gradientTo: { value: new Vector2() },
    gradientWidth: { value: 1 },
    gradientRadial: { value: false },
  }
}

/** Flat items are drawn one over the other in the order of the tree; objects hide one another by depth. */
export function surfaceMaterial(sort: Sort, uniforms: GradientUniforms | null): SurfaceMaterial {
  const flat = { transparent: true, side: DoubleSide, forceSinglePass: true, depthTest: sort.solid, depthWrite: sort.solid } as const
  const material = !sort.lit
    ? new MeshBasicMaterial(flat)
    : sort.solid
      ? new MeshStandardMaterial({ ...flat, metalness: 0 })
      : new MeshLambertMaterial(flat)
  if (sort.gradient && uniforms) paintGradient(material, uniforms)
  return material
}

/** How many texels a part has: the rows of its matrix, and its colour. */
export const texels = 4
/** How many parts stand in a row of the texture. */
export const abreast = 256

/** Paints many flat things in one go: where each part stands and its colour are rows of a texture, its vertices say its number. */
export function partsMaterial(parts: Texture): MeshBasicMaterial {
  const material = surfaceMaterial({ lit: false, solid: false, gradient: false, picture: false }, null) as MeshBasicMaterial
  material.onBeforeCompile = (shader: WebGLProgramParametersWithUniforms) => {
    shader.uniforms.parts = { value: parts }
    shader.vertexShader =
      `
      attribute float part;
      uniform highp sampler2D parts;
      varying vec4 partColour;
      vec4 ofPart(int n) {
        int k = int(part + 0.5);
        return texelFetch(parts, ivec2(${texels} * (k % ${abreast}) + n, k / ${abreast}), 0);
      }
    ` +
      shader.vertexShader.replace(
        '#include <begin_vertex>',
        `
      vec4 own = vec4(position, 1.0);
      vec3 transformed = vec3(dot(ofPart(0), own), dot(ofPart(1), own), dot(ofPart(2), own));
      partColour = ofPart(3);
    `,
      )
    shader.fragmentShader =
      'varying vec4 partColour;\n' + shader.fragmentShader.replace('#include <color_fragment>', 'diffuseColor *= partColour;')
  }
  material.customProgramCacheKey = () => 'parts'
  return material
}

/** Takes the colour from a strip, by where a place lies on the way of the gradient. */
function paintGradient(material: Material, uniforms: GradientUniforms): void {
  material.onBeforeCompile = (shader: WebGLProgramParametersWithUniforms) => {
    Object.assign(shader.uniforms, uniforms)
    shader.vertexShader =
      'varying vec2 gradientPlace;\n' +
      shader.vertexShader.replace('#include <begin_vertex>', '#include <begin_vertex>\ngradientPlace = position.xy;')
    shader.fragmentShader =
      `
      varying vec2 gradientPlace;
      uniform sampler2D gradientRamp;
      uniform vec2 gradientFrom, gradientTo;
      uniform float gradientWidth;
      uniform bool gradientRadial;
    ` +
      shader.fragmentShader.replace(
        '#include <map_fragment>',
        `
      vec2 way = gradientTo - gradientFrom;
      vec2 here = gradientPlace - gradientFrom;
      float reach = max(dot(way, way), 1e-9);
      float along = dot(here, way) / reach;
      float across = (here.y * way.x - here.x * way.y) / reach / max(gradientWidth, 1e-6);
      float share = clamp(gradientRadial ? length(vec2(along, across)) : along, 0.0, 1.0);
      vec4 paint = texture2D(gradientRamp, vec2((share * 255.0 + 0.5) / 256.0, 0.5));
      diffuseColor *= vec4(mix(pow((paint.rgb + 0.055) / 1.055, vec3(2.4)), paint.rgb / 12.92, vec3(lessThanEqual(paint.rgb, vec3(0.04045)))), paint.a);
    `,
      )
  }
  material.customProgramCacheKey = () => 'gradient'
}
