import type { Id, LinkKind, Ref, Roster, RosterLink, Spec, ValueType } from '@/core/types'
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

/** What a member drives, as its key: the property, and a component behind a point. */
export function drivenBy(spread: RosterLink, m: Ref): string {
  const id = memberId(spread, m)
  const part = spread.parts?.[id] ?? (spread.keys?.[id] ? '' : spread.component)
  return part ? `${m.property}.${part}` : m.property
}

/** What the link could drive on a member, to choose from: what its source fits, the property of the row first. */
export function driveChoices(
  doc: Document,
  spread: RosterLink,
  item: Id,
  fits: (source: ValueType, target: ValueType, kind: LinkKind) => boolean,
): { label: string; value: string }[] {
  const source = doc.spec(spread.link.source.item, spread.link.source.property)
  const from: ValueType | undefined = spread.link.source.component ? 'number' : source?.type
  const whole = spread.component ? 'number' : specOfRow(doc, spread)?.type
  const takes = (type: ValueType): boolean => (from ? fits(from, type, spread.link.kind) : type === whole || type === 'number')
  const out: { label: string; value: string }[] = []
  const of = doc.items.get(item)
  for (const spec of of ? doc.specsOf(of) : []) {
    if (spec.readOnly || spec.group === 'Vertices' || spec.key.startsWith('weight:')) continue
    const own = spec.key === spread.property
    const entries = takes(spec.type) ? [{ label: spec.name, value: spec.key }] : []
    if (takes('number'))
      entries.push(...(spec.parts ?? []).map((part) => ({ label: `${spec.name}.${part}`, value: `${spec.key}.${part}` })))
    if (own) out.unshift(...entries)
    else out.push(...entries)
  }
  return out
}

/** The link on a row with some of its members driving what a key says. */
export function driving(spread: RosterLink, members: Id[], key: string): Pick<RosterLink, 'parts' | 'keys'> {
  const [property = '', part = ''] = key.split('.')
  const without = (all: Record<Id, string> = {}): Record<Id, string> =>
    Object.fromEntries(Object.entries(all).filter(([id]) => !members.includes(id)))
  const [parts, keys] = [without(spread.parts), without(spread.keys)]
  const other = property !== spread.property
  for (const id of members) {
    if (other) keys[id] = property
    if (part !== (other ? '' : (spread.component ?? ''))) parts[id] = part
  }
  const some = (all: Record<Id, string>): Record<Id, string> | undefined => (Object.keys(all).length ? all : undefined)
  return { parts: some(parts), keys: some(keys) }
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
