import type { Ref, Spec } from '@/core/types'

/** A fader, knob or key of a box, and what it is bound to. */
export interface Binding {
  box: string
  from: string
  target: Ref
}

/** How far along its way a fader stands for a number of a property; nothing for what has no way. */
export function shareOf(spec: Spec, value: number): number | null {
  if (spec.options) return spec.options.length > 1 ? value / (spec.options.length - 1) : 0
  if (spec.type === 'switch') return value ? 1 : 0
  const span = spec.softMax - spec.softMin
  return span > 0 ? Math.max(0, Math.min(1, (value - spec.softMin) / span)) : null
}

/** The number that a fader at a share of its way gives a property. */
export function numberAt(spec: Spec, share: number): number {
  if (spec.options) return Math.round(share * (spec.options.length - 1))
  if (spec.type === 'switch') return share >= 0.5 ? 1 : 0
  const x = spec.softMin + share * (spec.softMax - spec.softMin)
  return spec.whole ? Math.round(x) : Number(x.toPrecision(7))
}

/** What is left to bind of a property: a point has two ways, anything else one; colours and texts have none. */
export function ways(spec: Spec): (string | undefined)[] {
  if (spec.type === 'colour' || spec.type === 'text') return []
  return spec.parts?.length ? spec.parts.slice(0, 2) : [undefined]
}
