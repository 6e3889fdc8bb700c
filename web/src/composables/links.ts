import type { Edit, Id, Link, LinkKind } from '@/core/types'
import { useDocument } from '@/stores/document'

/** What a link does with what is below it, for a list to choose from. */
export const linkOperations = [
  { label: 'Replace', value: '' },
  { label: 'Add', value: 'add' },
  { label: 'Multiply', value: 'multiply' },
]

/** How a stop goes on to the next one, for a list to choose from. */
export const easings = ['linear', 'smooth', 'hold'].map((e) => ({ label: e, value: e }))

/** The key of the property that is the weight of a link. */
export const weightKey = (link: Link): string => 'weight:' + link.id

/** What is to be known of links and their kinds; the core says it. */
export function useLinks() {
  const doc = useDocument()
  const kind = (key: LinkKind) => doc.catalogue.links.find((k) => k.kind === key)

  /** What drives the target of a link, in a few words. */
  function from(link: Link, written = 'a formula'): string {
    if (link.graph) return `the graph ${doc.graphs.find((g) => g.id === link.graph)?.name ?? 'that was removed'}`
    return kind(link.kind)?.sourced ? doc.nameOf(link.source) : written
  }

  /** The chip of the link that has the last word on a property. */
  function chip(link: Link): string {
    const of = kind(link.kind)
    if (of?.sourced) return doc.spec(link.source.item, link.source.property)?.name ?? 'removed'
    const name = of?.name.toLowerCase() ?? ''
    return link.draft ? `${name} ✕` : name
  }

  /** The operations that alter links of a property. */
  function altered(links: { item: Id; link: Link }[], property: string, what: Partial<Link>): Edit[] {
    return links.map(({ item, link }) => ({ op: 'link.set' as const, item, property, link: { ...link, ...what } }))
  }

  return { kind, from, chip, altered }
}
