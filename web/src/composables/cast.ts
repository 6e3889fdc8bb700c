import { toRaw } from 'vue'
import type { useDocument } from '@/stores/document'
import type { Actor } from '@/viewport/actors'

/** Everyone the stage has to know of, in the order of the tree. */
export function castOf(document: ReturnType<typeof useDocument>): Actor[] {
  const items = toRaw(document.items)
  const bases = toRaw(document.base)
  const offsets = new Map([...document.kinds.values()].map((k) => [k.kind, new Map(k.specs.map((s) => [s.key, s.offset]))]))
  return document.order.flatMap((id, i) => {
    const item = items.get(id)
    const kind = item && document.kinds.get(item.kind)
    if (!item || !kind) return []
    return [{
      id, kind: item.kind, class: kind.class, hidden: document.hidden.has(id), world: document.world + document.stride * i,
      base: bases.get(id) ?? 0, offsets: offsets.get(item.kind) ?? new Map<string, number>(),
      frames: item.frames ?? [], stops: item.stops ?? [], evenOdd: item.evenOdd === true,
    }]
  })
}
