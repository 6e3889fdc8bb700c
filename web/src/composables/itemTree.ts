import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'

/** A row of the tree of items. */
export interface ItemTreeRow {
  id: Id
  depth: number
  children: boolean
  place: number // among its siblings, from 1
  of: number
}

/** The rows of the tree of items: those whose branches are not folded, or those with a text in their names. */
export function useItemTree(): {
  sought: Ref<string>
  rows: ComputedRef<ItemTreeRow[]>
  closed: Ref<Set<Id>>
  fold: (id: Id) => void
  /** Unfolds all that an item lies in, so that its row is among them. */
  unfold: (id: Id) => void
} {
  const doc = useDocument()
  const sought = ref('')
  const closed = ref(new Set<Id>())

  // A long tree starts with its branches folded.
  const long = 40
  watch(
    () => doc.compositionId,
    () => {
      const branches = doc.order.filter((_, i) => (doc.depths[i + 1] ?? 0) > (doc.depths[i] ?? 0))
      closed.value = new Set(doc.order.length > long ? branches : [])
      sought.value = ''
    },
    { immediate: true },
  )

  const rows = computed<ItemTreeRow[]>(() => {
    const out: ItemTreeRow[] = []
    const text = sought.value.trim().toLowerCase()
    if (text)
      return doc.order
        .filter((id) => doc.items.get(id)?.name.toLowerCase().includes(text))
        .map((id, k, all) => ({ id, depth: 0, children: false, place: k + 1, of: all.length }))
    let skip = Infinity
    const last: (ItemTreeRow[] | undefined)[] = [] // the siblings that were met last, by depth
    const groups: ItemTreeRow[][] = []
    doc.order.forEach((id, i) => {
      const depth = doc.depths[i] ?? 0
      if (depth > skip) return
      skip = closed.value.has(id) ? depth : Infinity
      last.length = Math.min(last.length, depth + 1)
      let met = last[depth]
      if (!met) {
        last[depth] = met = []
        groups.push(met)
      }
      const row = { id, depth, children: (doc.depths[i + 1] ?? 0) > depth, place: met.length + 1, of: 0 }
      met.push(row)
      out.push(row)
    })
    for (const group of groups) for (const row of group) row.of = group.length
    return out
  })

  function unfold(id: Id): void {
    if (!rows.value.some((r) => r.id === id)) sought.value = ''
    const next = new Set(closed.value)
    for (let above = doc.items.get(id)?.parent; above; above = doc.items.get(above)?.parent) next.delete(above)
    closed.value = next
  }

  function fold(id: Id): void {
    const next = new Set(closed.value)
    if (!next.delete(id)) next.add(id)
    closed.value = next
  }

  return { sought, rows, closed, fold, unfold }
}
