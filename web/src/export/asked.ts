import type { Format, Id } from '@/core/types'
import type { Blur } from './pictures'

/** What is exported, and how. */
export interface Export {
  format: Format
  composition: Id
  /** What the composition is called. */
  name: string
  width: number
  height: number
  /** The first and the last frame. */
  from: number
  to: number
  /** Pictures a second. */
  rate: number
  /** Without the background. */
  clear: boolean
  /** How often it plays; 0 is for ever. */
  loop: number
  blur?: Blur
}

/** The moments that are drawn, in frames of the composition: every frame, or, at another rate, as many as fit in. */
export function moments({ from, to, rate }: Pick<Export, 'from' | 'to' | 'rate'>, own: number): number[] {
  const count = Math.max(1, Math.round(((to - from + 1) * rate) / own))
  return Array.from({ length: count }, (_, k) => (rate === own ? from + k : from + (k * own) / rate))
}

/** What the file of an export is called. */
export const fileName = ({ format, name, from }: Pick<Export, 'format' | 'name' | 'from'>): string =>
  `${name}${format.one ? ` ${String(from).padStart(4, '0')}` : ''}.${format.extension}`
