import type { Frame } from './types'

/** The values of a frame: all of them, or, where it tells only what changed, those of before with that in its place. */
export function valuesOf({ slots, values }: Frame, before: Float64Array): Float64Array {
  if (!slots) return values
  for (let k = 0; k < slots.length; k++) before[slots[k] as number] = values[k] as number
  return before
}
