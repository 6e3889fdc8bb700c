import { computed, nextTick, ref, type ComputedRef } from 'vue'
import { useLinks, weightKey } from '@/composables/links'
import type { Edit, Link } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import type { Heading, Row } from './rows'

/** Picking rows of the Ledger, by pointer and by keyboard, and changing them together. */
export function usePicking(rows: ComputedRef<Row[]>, entries: ComputedRef<(Row | Heading)[]>, scrollTo: (at: number) => void) {
  const doc = useDocument()
  const selection = useSelection()
  const wiring = useWiring()
  const links = useLinks()
  const picked = ref(new Set<string>())
  const at = ref(0) // the row that the keyboard reaches
  let last = ''
  function pick(event: MouseEvent | KeyboardEvent, r: Row, k: number): void {
    at.value = k
    const next = new Set(event.ctrlKey || event.metaKey || event.shiftKey ? picked.value : [])
    if (event.shiftKey && last) {
      const [a, b] = [rows.value.findIndex((x) => x.key === last), rows.value.findIndex((x) => x.key === r.key)].sort((x, y) => x - y)
      for (const x of rows.value.slice(a, (b ?? 0) + 1)) next.add(x.key)
    } else if (!next.delete(r.key)) next.add(r.key)
    last = r.key
    picked.value = next
    selection.pick(r.at.item)
    selection.pickProperty(r.at.property, false)
    wiring.editing = `${r.at.item}/${r.at.property}`
  }
  function pickGroup(h: Heading): void {
    picked.value = new Set(h.rows.map((r) => r.key))
  }
  const chosen = computed(() => rows.value.filter((r) => picked.value.has(r.key)))

  /** Arrows go along the rows, Space picks one, with Shift up to it, Del removes what is picked. */
  async function key(event: KeyboardEvent): Promise<void> {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key]
    const r = entries.value[at.value]
    if (step) at.value = Math.max(0, Math.min(entries.value.length - 1, at.value + step))
    else if (event.key === ' ' && r && !('title' in r)) pick(event, r, at.value)
    else if (event.key === 'Delete' && chosen.value.length) remove()
    else return
    event.preventDefault()
    event.stopPropagation()
    if (!step) return
    scrollTo(Math.max(0, at.value - 4))
    await nextTick()
    const row = (event.currentTarget as HTMLElement).querySelector<HTMLElement>(`[data-entry="${at.value}"]`)
    row?.focus()
  }

  /** The operation that alters a row's link, wherever it stands. */
  function altered(r: Row, what: Partial<Link>): Edit {
    const link = { ...r.link, ...what }
    if (!r.spread) return { op: 'link.set', item: r.at.item, property: r.at.property, link }
    const { members: _, ...value } = r.spread
    return { op: 'spread.set', value: { ...value, link } }
  }
  const change = (what: Partial<Link>): void =>
    void doc.operations(...chosen.value.filter((r) => !what.source || links.kind(r.link.kind)?.sourced).map((r) => altered(r, what)))
  const weigh = (value: number): void =>
    void doc.gesture('set', {
      targets: chosen.value.filter((r) => !r.spread).map((r) => ({ item: r.at.item, property: weightKey(r.link) })),
      value,
    })
  const remove = (): void =>
    void doc.operations(
      ...chosen.value.map((r) =>
        r.spread
          ? { op: 'spread.remove' as const, spread: r.spread.id }
          : { op: 'link.remove' as const, item: r.at.item, property: r.at.property, link: r.link.id },
      ),
    )

  return { picked, at, pick, pickGroup, chosen, change, weigh, remove, key }
}
