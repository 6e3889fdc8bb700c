import type { Composition, Control } from '@/core/types'

/** Where a control that is laid onto the viewport stands at first: inside the upper left corner. */
export function layAt(c: Composition | undefined): NonNullable<Control['laid']> {
  return { at: [Math.round(-(c?.width ?? 0) / 2 + 30), Math.round((c?.height ?? 0) / 2 - 30)] }
}
