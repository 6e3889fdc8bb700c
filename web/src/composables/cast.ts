import { toRaw } from 'vue'
import type { useDocument } from '@/stores/document'
import type { Actor } from '@/viewport/actors'

/** Everyone the stage has to know of, in the order of the tree. */
export function castOf(doc: ReturnType<typeof useDocument>): Actor[] {
  const items = toRaw(doc.items)
  const bases = toRaw(doc.base)
  const offsets = new Map([...doc.kinds.values()].map((k) => [k.kind, new Map(k.specs.map((s) => [s.key, s.offset]))]))
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
        world: doc.world + doc.stride * i,
        base: bases.get(id) ?? 0,
        offsets: offsets.get(item.kind) ?? new Map<string, number>(),
        frames: item.frames ?? [],
        stops: item.stops ?? [],
        evenOdd: item.evenOdd === true,
      },
    ]
  })
}
