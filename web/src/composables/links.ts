import type { Link, Ref } from '@/core/types'

/** The properties that a link looks at: its source, or those that its formula names by their ids, as they are stored: {@item:@property.part}. */
export function sourcesOf(link: Link): Ref[] {
  if (link.kind !== 'formula') return [link.source]
  return [...(link.formula ?? '').matchAll(/\{@([a-z0-9]+):@([^}.]+)/g)].map(([, item = '', property = '']) => ({ item, property }))
}

/** What a link does with what is below it, for a list to choose from. */
export const linkOperations = [{ label: 'replaces', value: '' }, { label: 'adds', value: 'add' }, { label: 'multiplies', value: 'multiply' }]

/** The key of the property that is the weight of a link. */
export const weightKey = (link: Link): string => 'weight:' + link.id
