import { toRaw } from 'vue'
import type { useDocument } from '@/stores/document'
import type { Item, ItemKind } from '@/core/types'
import type { Actor, Column } from '@/viewport/actors'

type Read = Pick<
  ReturnType<typeof useDocument>,
  'items' | 'copied' | 'slots' | 'kinds' | 'order' | 'hidden' | 'out' | 'world' | 'stride' | 'staged' | 'compositions'
>

/** What the marks of an item that a piece shows say. */
const hidden = 1
const copied = 2
const out = 4

/** Everyone the stage has to know of, the front first: the items, and what pieces show. */
export function castOf(doc: Read): Actor[] {
  const items = toRaw(doc.items)
  const columns = columnsOf(doc)
  const none = new Map<string, Column>()
  const looks = (
    item: Pick<Item, 'kind' | 'frames' | 'stops' | 'evenOdd'>,
  ): Pick<Actor, 'kind' | 'class' | 'columns' | 'frames' | 'stops' | 'evenOdd'> => ({
    kind: item.kind,
    class: doc.kinds.get(item.kind)?.class ?? '',
    columns: columns.get(item.kind) ?? none,
    frames: item.frames ?? [],
    stops: item.stops ?? [],
    evenOdd: item.evenOdd === true,
  })
  const own = doc.order.flatMap((id, i): Actor[] => {
    const item = items.get(id)
    if (!item || !doc.kinds.has(item.kind)) return []
    const shows = item.piece && doc.compositions.find((c) => c.id === item.piece?.composition)
    return [
      {
        ...looks(item),
        id,
        index: i,
        owner: id,
        left: -1,
        hidden: doc.hidden.has(id),
        out: doc.out.has(id),
        copied: doc.copied.has(id),
        world: doc.world + doc.stride * i,
        row: doc.slots.rows[i] ?? 0,
        ...(shows && { size: [shows.width, shows.height] as [number, number] }),
      },
    ]
  })
  const staged = doc.staged
  if (!staged) return own
  const all: Actor[] = []
  for (const actor of own) all[actor.index] = actor
  for (const stage of staged.stages) {
    const piece = all[stage.piece]
    staged.casts[stage.cast]?.forEach((player, k) => {
      const index = stage.first + k
      const at = staged.seen + staged.stride * (index - staged.first)
      const mark = staged.marks[index - staged.first] ?? 0
      all[index] = {
        ...looks(player),
        id: `${piece?.id ?? ''}/${player.id}`,
        index,
        owner: piece?.owner ?? '',
        left: at + staged.stride - 1,
        hidden: (mark & hidden) > 0,
        out: (mark & out) > 0,
        copied: (mark & copied) > 0,
        world: at,
        row: staged.rows[index - staged.first] ?? 0,
      }
    })
  }
  return staged.painted.flatMap((i) => all[i] ?? [])
}

/** Where the properties of each kind stand, by key. */
function columnsOf(doc: Read): Map<string, Map<string, Column>> {
  return new Map(
    Object.entries(doc.slots.columns).map(([kind, columns]) => [
      kind,
      new Map(
        (doc.kinds.get(kind as ItemKind)?.specs ?? []).flatMap((s, n) => {
          const column = columns?.[n]
          return column ? [[s.key, { ...column, size: s.parts?.length ?? 1 }] as const] : []
        }),
      ),
    ]),
  )
}
