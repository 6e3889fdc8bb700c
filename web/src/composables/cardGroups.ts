import { computed, type Ref } from 'vue'
import type { Item, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'

/** The only groups of what is never seen, by its class. */
const unseen: Record<string, string> = { sound: 'Sound', data: 'Table' }

/** The properties that all selected items have, in their groups; controls stand on the Desk. Where some are sought: those of any. */
export function useCardGroups(sought: Ref<string>) {
  const doc = useDocument()
  const selection = useSelection()

  /** What is never seen has no place in the picture; its transform is there for who hangs on it, and seldom wanted. */
  const wanted = (item: Item, s: Spec): boolean => {
    const only = unseen[doc.kinds.get(item.kind)?.class ?? '']
    return !only || s.group === only
  }

  /** Whether the composition of a piece hands a property off, as a control. */
  const handed = (item: Item, s: Spec): boolean => s.group === 'Controls' && !!item.piece && !item.controls?.some((c) => c.id === s.key)

  /** Whether a property matters as a choice of the item stands, where nothing moves that. */
  function matters(item: Item, s: Spec): boolean {
    const by = s.by && doc.spec(item.id, s.by)
    if (!by || doc.state(item.id, s.key).links || doc.state(item.id, s.key).pins) return true
    const state = doc.state(item.id, by.key)
    return !!state.links || !!state.pins || !!s.for?.includes(by.options?.[Number(state.own ?? 0)] ?? '')
  }

  /** One of each kind, and all that have properties of their own: the others have the same. */
  function different(items: readonly Item[]): Item[] {
    const kinds = new Set<string>()
    return items.filter((item) => item.specs?.length || !(kinds.has(item.kind) || !kinds.add(item.kind)))
  }

  return computed<[string, Spec[]][]>(() => {
    const [first, ...others] = selection.items
    if (!first) return []
    const rest = different(others)
    const words = sought.value.trim().toLowerCase()
    if (words) {
      // Sought by name over everything selected; what an item does not have is left out for it.
      const found = new Map<string, Spec>()
      for (const item of different(selection.items))
        for (const s of doc.specsOf(item)) if (!s.readOnly && s.name.toLowerCase().includes(words) && !found.has(s.key)) found.set(s.key, s)
      return [['Found', [...found.values()]]]
    }
    const shared = doc
      .specsOf(first)
      .filter(
        (s) =>
          (!['Controls', 'Vertices'].includes(s.group) || handed(first, s)) &&
          wanted(first, s) &&
          matters(first, s) &&
          rest.every((item) => doc.spec(item.id, s.key)?.type === s.type),
      )
    const out = new Map<string, Spec[]>()
    if (first.piece) out.set('Controls', []) // what its composition hands off comes first
    for (const s of shared) out.set(s.group, [...(out.get(s.group) ?? []), s])
    return [...out].filter(([, specs]) => specs.length)
  })
}
