import { computed, ref } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'

/** What is dragged on the Desk, and where it would go. */
const held = ref<{ item: Id; control?: string } | null>(null)
const over = ref<{ item: Id; at: number } | null>(null)

/** The drawers of the Desk in their order, and dragging them and their controls about. */
export function useDrawers() {
  const doc = useDocument()

  const arranged = computed(() => doc.composition?.drawers ?? [])
  const isTop = (id: Id): boolean => arranged.value.some((d) => d.item === id && d.top)
  /** Those kept on top first, then as they were arranged, then the others. */
  const drawers = computed<Id[]>(() => {
    const place = new Map(arranged.value.map((d, k) => [d.item, k]))
    const rank = (id: Id): number => (isTop(id) ? 0 : 1e9) + (place.get(id) ?? 1e6)
    return [...doc.controlled].sort((a, b) => rank(a) - rank(b))
  })

  const arrange = (order: Id[], top: (id: Id) => boolean): void =>
    void doc.operations({ op: 'composition.set', drawers: order.map((item) => (top(item) ? { item, top: true } : { item })) })
  const keepOnTop = (id: Id, on: boolean): void => arrange(drawers.value, (d) => (d === id ? on : isTop(d)))
  function put(id: Id, at: number): void {
    const rest = drawers.value.filter((d) => d !== id)
    arrange([...rest.slice(0, at), id, ...rest.slice(at)], isTop)
  }

  function begin(event: DragEvent, item: Id, control?: string): void {
    held.value = { item, control }
    event.dataTransfer?.setData('text/x-wunderkammer-desk', control ?? item)
    event.stopPropagation()
  }
  /** A place of a drawer is entered: of its controls, or, with -1, its head. */
  function enter(event: DragEvent, item: Id, at: number): void {
    if (!held.value) return
    event.preventDefault()
    over.value = { item, at }
  }
  function drop(item: Id, at: number): void {
    const from = held.value
    end()
    if (!from) return
    if (!from.control) {
      const to = drawers.value.filter((d) => d !== from.item).indexOf(item)
      if (from.item !== item) put(from.item, Math.max(0, to))
      return
    }
    const own = from.item === item ? (doc.items.get(item)?.controls ?? []).findIndex((c) => c.id === from.control) : -1
    const to = at < 0 ? 0 : own >= 0 && own < at ? at - 1 : at // it is taken out first
    if (own !== to) void doc.gesture('move control', { item: from.item, control: from.control, onto: item, at: to })
  }
  function end(): void {
    held.value = over.value = null
  }

  return {
    drawers,
    isTop,
    keepOnTop,
    put,
    begin,
    enter,
    drop,
    end,
    over: (item: Id, at: number): boolean =>
      over.value?.item === item && over.value.at === at && (at < 0 || held.value?.control !== undefined),
  }
}
