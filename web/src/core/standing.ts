import type { Edit, Ref, Value } from './types'

/** What has a property stand at a value, whatever its pins, at these frames, say. */
export function standing({ item, property }: Ref, value: Value, frames: number[]): Edit[] {
  const own: Edit = { op: 'own.set', item, property, value }
  return frames.length ? [{ op: 'pins.drop', item, property, frames }, own] : [own]
}
