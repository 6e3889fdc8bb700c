import { short } from '@/composables/format'
import type { SlipOutput } from '@/core/types'

/** What an output gives, in a few signs. */
export function figure(out?: SlipOutput): string {
  if (out?.text) return out.text
  if (out?.list) return `${out.list.count} values`
  const value = out?.value
  if (value === null || value === undefined) return '–'
  return Array.isArray(value) ? value.map(short).join(', ') : typeof value === 'number' ? short(value) : value
}
