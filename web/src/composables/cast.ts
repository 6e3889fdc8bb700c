import { toRaw } from 'vue'
import type { useDocument } from '@/stores/document'
import type { ItemKind } from '@/core/types'
import type { Actor, Column } from '@/viewport/actors'

/** Everyone the stage has to know of, in the order of the tree. */
export function castOf(
  doc: Pick<ReturnType<typeof useDocument>, 'items' | 'copied' | 'slots' | 'kinds' | 'order' | 'hidden' | 'world' | 'stride'>,
): Actor[] {
  const items = toRaw(doc.items)
  const { copied } = doc
  const { columns, rows } = doc.slots
  const byKind = new Map(
    Object.entries(columns).map(([kind, firsts]) => [
      kind,
      new Map(
        (doc.kinds.get(kind as ItemKind)?.specs ?? []).map((s, n) => [s.key, { first: firsts?.[n] ?? 0, size: s.parts?.length ?? 1 }]),
      ),
    ]),
  )
  return doc.order.flatMap((id, i) => {
    const item = items.get(id)
    const kind = item && doc.kinds.get(item.kind)
    if (!item || !kind) return []
    return [
      {
        id,
        kind: item.kind,
        class: kind.class,
        hidden: doc.hidden.has(id),
        copied: copied.has(id),
        world: doc.world + doc.stride * i,
        row: rows[i] ?? 0,
        columns: byKind.get(item.kind) ?? new Map<string, Column>(),
        frames: item.frames ?? [],
        stops: item.stops ?? [],
        evenOdd: item.evenOdd === true,
      },
    ]
  })
}
