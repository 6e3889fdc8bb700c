import type { Edge, Node } from '@vue-flow/core'
import { computed, type ComputedRef } from 'vue'
import type { FoldPort, Id, Slip, Wire } from '@/core/types'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'

/** The name of the handle of a whole value, which has none of its own. */
export const whole = 'whole'

/** An end of a wire, as its handle says: of a slip, or, through a fold, of one in it. */
export interface End {
  slip: Id
  port: string
}

/** The end that a handle stands for. */
export function endOf(node: Id, handle: string | null | undefined): End {
  const [slip, ...port] = (handle ?? whole).split('|')
  return port.length ? { slip: slip ?? '', port: port.join('|') } : { slip: node, port: handle ?? whole }
}

/** The handle of a port that a fold shows. */
export const foldHandle = (p: Pick<FoldPort, 'slip' | 'key'>): string => `${p.slip}|${p.key || whole}`

/** What stands on the sheet: slips, open and closed folds, notes, and the cables between them. */
export function useSheetView(): {
  nodes: ComputedRef<Node[]>
  edges: ComputedRef<Edge[]>
  wireOf: (edge: string) => Wire | undefined
  portsOf: (fold: Slip) => FoldPort[]
  closing: (id: Id) => Id | undefined
} {
  const graphs = useGraphs()
  const selection = useSelection()

  /** The outermost closed fold that each slip lies in. */
  const closed = computed(() => {
    const out = new Map<Id, Id>()
    for (const s of graphs.slips.values()) {
      let within = graphs.slips.get(s.within ?? '')
      while (within) {
        if (!within.open) out.set(s.id, within.id)
        within = graphs.slips.get(within.within ?? '')
      }
    }
    return out
  })
  const closing = (id: Id): Id | undefined => closed.value.get(id)

  /** The slips that what is selected elsewhere has to do with. */
  const near = computed(() => {
    const out = new Set<Id>()
    if (!selection.ids.length && !selection.control) return out
    for (const s of graphs.shown.slips) if (s.drives?.some((d) => selection.has(d.ref.item))) out.add(s.id)
    for (const s of graphs.slips.values()) {
      const item = /^\{@([^:}]*)(?::@([^.}]*))?/.exec(s.text ?? '')
      if (s.kind !== 'read' || !item) continue
      const { control } = selection
      if (control ? item[1] === control.item && item[2] === control.property : selection.has(item[1] ?? '')) out.add(s.id)
    }
    return out
  })

  const layer = (s: Slip): number =>
    s.kind === 'note' ? -2 : s.kind === 'fold' && s.open ? -1 : near.value.has(s.id) || graphs.picked.includes(s.id) ? 5 : 0
  const nodes = computed<Node[]>(() =>
    [...graphs.slips.values()]
      .filter((s) => !closed.value.has(s.id))
      .map((s) => ({
        id: s.id,
        type: s.kind === 'note' ? 'note' : s.kind === 'fold' && s.open ? 'frame' : 'slip',
        position: { x: s.at[0], y: s.at[1] },
        zIndex: layer(s),
        selected: graphs.picked.includes(s.id),
        class: near.value.has(s.id) ? 'near' : '',
        connectable: true,
      })),
  )

  const out = (w: Wire): string => (graphs.slips.get(w.from)?.kind === 'words' ? (w.out ?? whole) : whole)
  const edges = computed<Edge[]>(() =>
    graphs.wires.flatMap((w) => {
      const source = closed.value.get(w.from)
      const target = closed.value.get(w.to)
      if (source && source === target) return []
      const fit = graphs.turns.get(`${w.to}/${w.in}`)
      const part = graphs.slips.get(w.from)?.kind === 'words' || !w.out ? '' : '.' + w.out
      return [
        {
          id: `${w.to}/${w.in}`,
          source: source ?? w.from,
          target: target ?? w.to,
          sourceHandle: source ? foldHandle({ slip: w.from, key: w.out }) : out(w),
          targetHandle: target ? foldHandle({ slip: w.to, key: w.in }) : w.in,
          type: 'cable',
          label: [part, fit?.turns ?? ''].filter(Boolean).join('  '),
          data: { fit },
        },
      ]
    }),
  )
  const wireOf = (edge: string): Wire | undefined => graphs.leading.get(edge)

  /** What a fold shows: what it was given to show, and whatever leads out of it besides. */
  function portsOf(fold: Slip): FoldPort[] {
    const inside = new Set(graphs.withInner([fold.id]).map((s) => s.id))
    const known = (fold.ports ?? []).filter((p) => inside.has(p.slip))
    const has = (slip: Id, key: string, leads: boolean): boolean =>
      known.some((p) => p.slip === slip && (p.key ?? '') === key && !!p.out === leads)
    for (const w of graphs.wires) {
      if (inside.has(w.to) && !inside.has(w.from) && !has(w.to, w.in, false))
        known.push({ slip: w.to, key: w.in, name: graphs.given.get(w.to)?.called ?? w.in })
      if (inside.has(w.from) && !inside.has(w.to) && !has(w.from, w.out ?? '', true))
        known.push({ slip: w.from, key: w.out, out: true, name: graphs.given.get(w.from)?.called ?? '' })
    }
    return known
  }
  return { nodes, edges, wireOf, portsOf, closing }
}
