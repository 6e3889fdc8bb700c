import { short } from '@/composables/format'
import type { State } from '@/core/types'

/** A range that a property is held in, in words; empty where there is none. */
export function inWords({ min, max }: { min?: number; max?: number }): string {
  if (min !== undefined && min === max) return `locked at ${short(min)}`
  const ends = [min !== undefined ? `at least ${short(min)}` : '', max !== undefined ? `at most ${short(max)}` : ''].filter(Boolean)
  return ends.length ? `limited: ${ends.join(', ')}` : ''
}

/** The limits that were set on a property, and on its components, in words; empty where there are none. */
export function limitsOf({ min, max, limits: parts = {} }: State): string {
  const [first, ...rest] = [inWords({ min, max }), ...Object.entries(parts).map(([part, l]) => `${part} ${inWords(l)}`)].filter(Boolean)
  return first ? [first[0]?.toUpperCase() + first.slice(1), ...rest].join(', ') : ''
}
