import type { Id, Ref, Roster, RosterLink, Spec } from '@/core/types'
import type { useDocument } from '@/stores/document'

type Document = ReturnType<typeof useDocument>

/** What names a member among all of its roster: its item, or the vertex that it is. */
export const memberId = (spread: RosterLink, m: Ref): Id => (spread.roster.kind === 'vertices' ? m.property : m.item)

/** What stands for the property where a link on a row is meant. */
export const nowhere: Ref = { item: '', property: '' }

/** The property that a link on a row drives, as its first member has it. */
export function specOfRow(doc: Document, spread: RosterLink): Spec | undefined {
  if (spread.roster.kind === 'copies') return doc.kinds.get('copy')?.specs?.find((s) => s.key === spread.property)
  const first = spread.members?.[0]
  return first && doc.spec(first.item, first.property)
}

/** Says in plain words who is in a roster. */
export function saysWho(doc: Document, r: Roster): string {
  const name = (id?: Id): string => doc.items.get(id ?? '')?.name ?? 'a deleted item'
  if (r.of) return `${r.kind === 'chain' ? 'all descendants of' : 'the children of'} each of ${saysWho(doc, r.of)}`
  if (r.kind === 'children') return `children of ${name(r.item)}`
  if (r.kind === 'chain') return `all descendants of ${name(r.item)}`
  if (r.kind === 'vertices') return `the vertices of ${name(r.item)}`
  if (r.kind === 'copies') return `the copies of ${name(r.item)}`
  return r.kind === 'named' ? `items named “${r.pattern}”` : 'chosen items, in order'
}

/** The other rosters that a link can be put on, with why not where one makes no sense. */
export function rosters(doc: Document, spread: RosterLink, selected: Id[]): { key: string; label: string; roster?: Roster }[] {
  if (spread.roster.kind === 'vertices' || spread.roster.kind === 'copies') return []
  const members = (spread.members ?? []).map((m) => m.item)
  const first = doc.items.get(members[0] ?? '')
  const parent = doc.items.get(first?.parent ?? '')
  const named = spread.roster.kind === 'named'
  return [
    { key: 'children', label: 'Members: siblings', roster: parent && { kind: 'children', item: parent.id } },
    { key: 'chain', label: 'Members: all descendants', roster: parent && { kind: 'chain', item: parent.id } },
    {
      key: 'rows',
      label: 'Members: one row per sibling of the parent',
      roster: parent?.parent ? { kind: 'children', of: { kind: 'children', item: parent.parent } } : undefined,
    },
    {
      key: 'chains',
      label: 'Members: one row of descendants per sibling of the parent',
      roster: parent?.parent ? { kind: 'chain', of: { kind: 'children', item: parent.parent } } : undefined,
    },
    {
      key: 'picked',
      label: selected.length > 1 ? `Members: the ${selected.length} selected, in order` : 'Members: chosen items, in order',
      roster: selected.length > 1 ? { kind: 'picked', items: selected } : members.length ? { kind: 'picked', items: members } : undefined,
    },
    {
      key: 'named',
      label: 'Members: by name',
      roster: named ? undefined : { kind: 'named', pattern: (first?.name ?? '').replace(/\d+$/, '*') },
    },
  ]
}

/** The faders that can be the weight of a link, some of many. */
export const weightSources = (doc: Document): { key: string; label: string }[] =>
  doc.nulls
    .flatMap((id) =>
      (doc.items.get(id)?.controls ?? [])
        .filter((c) => c.kind === 'fader')
        .map((c) => ({ key: `weight:${id}/${c.id}`, label: `${doc.items.get(id)?.name}: ${c.name}` })),
    )
    .slice(0, 40)
