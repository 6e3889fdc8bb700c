import { useVueFlow, type Connection } from '@vue-flow/core'
import { computed, ref, shallowRef, type ComputedRef, type InjectionKey, type Ref, type ShallowRef } from 'vue'
import type { Fit, Id, Mend, Source, Wire } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { endOf, whole, type End } from './view'

/** What slips on a sheet have to know of the hand over it. */
export interface Holding {
  /** What would become of the value that is held, by "slip/input". */
  fits: ShallowRef<Map<string, Fit>>
  /** The slips that are worked out at another time for a time slip that is picked. */
  elsewhen: ComputedRef<Set<Id>>
}
export const holding: InjectionKey<Holding> = Symbol('holding')

/** Why a cable cannot be plugged in, and what would mend that: shown where it was let go. */
export interface Refusal {
  x: number
  y: number
  wire: Wire
  fit: Fit
}

/** Cables in the hand: what is held, where it may go, and what is offered where it may not. */
export function useHand(search: (x: number, y: number, from: { end: End; out: boolean }) => void): Holding & {
  refusal: Ref<Refusal | null>
  /** Why what is held does not fit where the pointer is. */
  hint: Ref<{ x: number; y: number; text: string } | null>
  /** Whether it is over a port: the sheet stands still then, so that it is met, at the rim, too. */
  met: Ref<boolean>
  hover: (event: PointerEvent) => void
  grab: (at: { nodeId?: string; handleId: string | null; handleType?: string }) => void
  plug: (c: Connection) => void
  drop: (event?: MouseEvent | TouchEvent) => void
  mend: (m: Mend) => void
  lead: (from: End, to: End, x: number, y: number) => Promise<void>
} {
  const graphs = useGraphs()
  const doc = useDocument()
  const { getNodes } = useVueFlow('sheet')
  const fits = shallowRef(new Map<string, Fit>())
  const refusal = ref<Refusal | null>(null)
  const hint = ref<{ x: number; y: number; text: string } | null>(null)
  const met = ref(false)
  let held: { end: End; out: boolean } | null = null
  let plugged = false

  const sourceOf = (end: End): Source => ({ slip: end.slip, ...(end.port !== whole && { out: end.port }) })

  function grab(at: { nodeId?: string; handleId: string | null; handleType?: string }): void {
    plugged = false
    refusal.value = null
    held = at.nodeId ? { end: endOf(at.nodeId, at.handleId), out: at.handleType === 'source' } : null
    if (held?.out) void graphs.fitsFrom(sourceOf(held.end)).then((f) => (fits.value = held ? f : new Map()))
  }

  function hover(event: PointerEvent): void {
    const handle = held && event.target instanceof Element ? event.target.closest('.vue-flow__handle') : null
    met.value = handle !== null
    const end = handle && endOf(handle.getAttribute('data-nodeid') ?? '', handle.getAttribute('data-handleid'))
    const fit = end && fits.value.get(`${end.slip}/${end.port}`)
    const mends = (fit?.mends ?? []).map((m) => m.label).join(', ')
    const text = fit && (fit.refused || fit.doubt)
    hint.value = text ? { x: event.clientX, y: event.clientY, text: text + (mends && `. Let go to put between: ${mends}`) } : null
  }

  /** Leads a wire from an output to an input, or says why that cannot be. */
  async function lead(from: End, to: End, x: number, y: number): Promise<void> {
    const source = sourceOf(from)
    const wire: Wire = { from: source.slip, ...(source.out && { out: source.out }), to: to.slip, in: to.port }
    const fit = (await graphs.fitsFrom(source)).get(`${to.slip}/${to.port}`)
    if (fit?.refused) refusal.value = { x, y, wire, fit }
    else await graphs.put([], [wire])
  }

  let at = { x: 0, y: 0 } // where the cable was let go
  let waiting: [End, End] | null = null
  function plug(c: Connection): void {
    plugged = true
    waiting = [endOf(c.source, c.sourceHandle), endOf(c.target, c.targetHandle ?? 'in')]
  }

  /** The first input of a slip that takes what is held: an empty one, if there is. */
  function inputFor(node: string): string | undefined {
    const ins = graphs.given.get(node)?.ins ?? []
    const open = ins.filter((p) => !fits.value.get(`${node}/${p.key}`)?.refused)
    const free = open.filter((p) => !graphs.leading.has(`${node}/${p.key}`) && !graphs.slips.get(node)?.fields?.[p.key])
    return (free[0] ?? open[0] ?? ins[0])?.key
  }

  function drop(event?: MouseEvent | TouchEvent): void {
    const from = held
    held = null
    if (event instanceof MouseEvent) at = { x: event.clientX, y: event.clientY }
    const ends = waiting
    waiting = null
    if (plugged && ends) void lead(...ends, at.x, at.y)
    else if (from && event instanceof MouseEvent) {
      const over = event.target instanceof Element ? event.target.closest('.vue-flow__node')?.getAttribute('data-id') : null
      const input = over && from.out && over !== from.end.slip ? inputFor(over) : undefined
      if (over && input) void lead(from.end, { slip: over, port: input }, at.x, at.y)
      else if (!over || !getNodes.value.some((n) => n.id === over && n.type === 'slip')) search(at.x, at.y, from)
    }
    fits.value = new Map()
    hint.value = null
  }

  function mend(m: Mend): void {
    const at = refusal.value
    refusal.value = null
    if (at && graphs.graph) void doc.gesture('mend wire', { graph: graphs.graph.id, wire: at.wire, text: m.text })
  }

  const times = computed(() => new Set(doc.catalogue.functions.filter((f) => f.group === 'time').map((f) => f.name)))
  const elsewhen = computed(() => {
    const out = new Set<Id>()
    const walk = (id: Id, input?: string): void => {
      for (const w of graphs.wires)
        if (w.to === id && (!input || w.in === input) && !out.has(w.from)) {
          out.add(w.from)
          walk(w.from)
        }
    }
    for (const id of graphs.picked) if (times.value.has(graphs.slips.get(id)?.text ?? '')) walk(id, '1')
    return out
  })

  return { fits, elsewhen, refusal, hint, met, hover, grab, plug, drop, mend, lead }
}
