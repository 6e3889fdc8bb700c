import { useVueFlow } from '@vue-flow/core'
import { computed, nextTick, ref, shallowRef, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import { typeAhead } from '@/composables/typingAhead'
import type { Id, Ref as Property, Wire } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import type { Made } from './finding'
import { useOffering, type OfferedPort } from './offering'
import { whole, type End } from './view'

interface Place {
  x: number
  y: number
}

/** The end of a cable that is led somewhere, and whether it is that of an output. */
export interface Pending {
  end: End
  out: boolean
}

/** Puts slips on the sheet: what is found by typing, copies, what an item of the tree has. */
export function usePutting(
  host: () => HTMLElement | null,
  inside: (x: number, y: number, w: number, h: number) => Place,
  closing: (id: Id) => Id | undefined,
  leading: (from: End, to: End) => void,
): {
  searching: Ref<Place | null>
  begun: Ref<string>
  wanted: ComputedRef<'takes' | 'gives' | undefined>
  /** Ports of slips that are there for the other end of the cable, and the parts of its value. */
  ports: ShallowRef<OfferedPort[]>
  parts: ShallowRef<string[]>
  pointer: Ref<Place | null>
  search: (x: number, y: number, from?: Pending) => void
  middle: (from?: Pending) => void
  free: (at: Place) => [number, number]
  choose: (what: Made, drive?: Property[]) => Promise<void>
  find: (id: Id) => void
  lead: (to: OfferedPort) => void
  part: (key: string) => void
  dropped: (event: DragEvent) => void
  paste: () => void
  close: () => void
  /** What was chosen and is not on the sheet yet. */
  busy: () => Promise<unknown> | null
} {
  const graphs = useGraphs()
  const doc = useDocument()
  const { screenToFlowCoordinate, setCenter, findNode } = useVueFlow('sheet')
  /** Where the search stands, in the panel. */
  const searching = ref<Place | null>(null)
  /** What stands in it as it opens. */
  const begun = ref('')
  const pending = shallowRef<Pending | null>(null)
  const wanted = computed(() => (pending.value ? (pending.value.out ? 'takes' : 'gives') : undefined))
  const pointer = ref<Place | null>(null) // in the window
  let where: Place = { x: 0, y: 0 } // on the sheet
  let driving = false // what is found is to be driven
  const gap = 60 // between slips that are put beside one another
  const size = { width: 190, height: 110 } // of a slip that is not there yet
  const { ports, parts, offer } = useOffering(closing)
  const bounds = (): DOMRect => host()?.getBoundingClientRect() ?? new DOMRect()

  function search(x: number, y: number, from?: Pending): void {
    typeAhead()
    pending.value = from ?? null
    where = screenToFlowCoordinate({ x, y })
    searching.value = inside(x, y, 310, 240)
    void offer(pending.value, where)
  }

  /** Leads the cable to a port that is there. */
  function lead({ end }: OfferedPort): void {
    const from = pending.value
    close()
    if (!from) return
    leading(...(from.out ? ([from.end, end] as const) : ([end, from.end] as const)))
    graphs.picked = [from.out ? end.slip : from.end.slip]
  }

  /** Leads on only a part of the value. */
  function part(key: string): void {
    if (!pending.value) return
    pending.value = { ...pending.value, end: { slip: pending.value.end.slip, port: key } }
    void offer(pending.value, where)
  }

  /** Opens the search without a pointer: what is found is put right of the slip that is picked, or in the middle. */
  function middle(from?: Pending): void {
    const box = bounds()
    const node = graphs.picked.length === 1 ? findNode(graphs.picked[0]) : undefined
    search(box.left + box.width / 2 - 60, box.top + box.height / 3, from)
    if (node) where = { x: node.position.x + node.dimensions.width + gap, y: node.position.y }
  }

  /** The nearest place down from one where no slip lies already. */
  function free(at: Place): [number, number] {
    const rects = [...graphs.slips.values()]
      .filter((s) => s.kind !== 'note' && !closing(s.id))
      .map((s) => ({ x: s.at[0], y: s.at[1], ...(findNode(s.id)?.dimensions ?? size) }))
    let y = at.y
    const hit = (): (typeof rects)[number] | undefined =>
      rects.find((r) => at.x < r.x + r.width + 20 && r.x < at.x + size.width + 20 && y < r.y + r.height + 16 && r.y < y + size.height + 16)
    for (let over = hit(); over; over = hit()) y = over.y + over.height + 20
    return [Math.round(at.x), Math.round(y)]
  }

  function close(): void {
    searching.value = null
    pending.value = null
    begun.value = ''
    driving = false
    host()?.focus()
  }

  let coming: Promise<unknown> | null = null
  const choose = (what: Made, drive?: Property[]): Promise<void> => {
    const done = put(what, drive)
    coming = done
    void done.finally(() => (coming = coming === done ? null : coming))
    return done
  }
  async function put(what: Made, drive?: Property[]): Promise<void> {
    if (what.kind === 'note') typeAhead()
    const [from, drives] = [pending.value, driving]
    const ref = /^\{@([^:]+):@([^.}]+)\}$/.exec(what.text ?? '')
    close()
    if (drives && ref && graphs.graph) {
      const graph = graphs.graph.id
      const [slip] = await graphs.put([{ kind: 'drive', at: free(where) }])
      if (slip) await doc.gesture('drive', { graph, slip, targets: [{ item: ref[1] ?? '', property: ref[2] ?? '' }] })
      return
    }
    const wires: Wire[] = []
    const input = what.kind === 'drive' || what.kind === 'readout' ? 'in' : '1'
    if (from?.out) wires.push({ from: from.end.slip, ...(from.end.port !== whole && { out: from.end.port }), to: '#0', in: input })
    else if (from) wires.push({ from: '#0', to: from.end.slip, in: from.end.port })
    const graph = graphs.graph?.id ?? ''
    const [made] = await graphs.put([{ ...what, at: free(where) }], wires)
    if (drive && made) await doc.gesture('drive', { graph, slip: made, targets: drive, ...(drive.length > 1 && { roster: true }) })
    await nextTick()
    // Until it is drawn, with its inputs.
    const drawn = (): boolean => graphs.given.has(made ?? '') && !!host()?.querySelector(`[data-id="${made}"] .slip`)
    for (let tries = 0; tries < 40 && !drawn() && what.kind !== 'note'; tries++) await new Promise(requestAnimationFrame)
    await nextTick()
    if (what.kind !== 'note') return
    const text = (): HTMLElement | null | undefined => host()?.querySelector(`[data-id="${made}"] textarea`)
    for (let tries = 0; tries < 20 && !text(); tries++) await new Promise(requestAnimationFrame) // the sheet measures it first
    text()?.focus()
  }

  /** Shows a slip that is there. */
  function find(id: Id): void {
    close()
    const shown = closing(id) ?? id
    graphs.picked = [shown]
    const node = findNode(shown)
    if (node) void setCenter(node.position.x + 90, node.position.y + 50, { zoom: 1, duration: 200 })
  }

  /** An item of the tree that is dropped here: which of its properties is meant is found by typing; at the right edge it is driven. */
  function dropped(event: DragEvent): void {
    const [item] = event.dataTransfer?.getData('text/x-wunderkammer-items').split(' ') ?? []
    const name = doc.items.get(item ?? '')?.name
    const box = bounds()
    if (!name) return
    begun.value = name + ': '
    search(event.clientX, event.clientY)
    driving = event.clientX > box.left + (2 * box.width) / 3
  }

  function paste(): void {
    const box = bounds()
    const at = screenToFlowCoordinate(pointer.value ?? { x: box.left + box.width / 2, y: box.top + box.height / 3 })
    void graphs.paste([Math.round(at.x), Math.round(at.y)])
  }

  return {
    searching,
    begun,
    wanted,
    ports,
    parts,
    pointer,
    search,
    middle,
    free,
    choose,
    find,
    lead,
    part,
    dropped,
    paste,
    close,
    busy: () => coming,
  }
}
