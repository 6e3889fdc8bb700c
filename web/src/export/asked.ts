import type { Asked, Format } from '@/core/types'

/** What is exported, and how, of which composition. */
export interface Export extends Omit<Asked, 'format'> {
  format: Format
  /** What the composition is called. */
  name: string
}

/** The moments that are drawn, in frames of the composition: every frame, or, at another rate, as many as fit in. */
export function moments({ from, to, rate }: Pick<Export, 'from' | 'to' | 'rate'>, own: number): number[] {
  const count = Math.max(1, Math.round(((to - from + 1) * rate) / own))
  return Array.from({ length: count }, (_, k) => (rate === own ? from + k : from + (k * own) / rate))
}

/** What the file of an export is called. */
export const fileName = ({ format, name, from }: Pick<Export, 'format' | 'name' | 'from'>): string =>
  `${name}${format.one && format.extension !== 'zip' ? ` ${String(from).padStart(4, '0')}` : ''}.${format.extension}`
