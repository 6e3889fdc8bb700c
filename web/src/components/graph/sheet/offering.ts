import { shallowRef, type ShallowRef } from 'vue'
import type { Id } from '@/core/types'
import { useGraphs } from '@/stores/graphs'
import type { Pending } from './putting'
import { whole, type End } from './view'

/** A port of a slip that is there, to which the cable in the hand can be led. */
export interface OfferedPort {
  name: string
  help: string
  end: End
}

/** What is there already for the end of a cable in the hand: ports that take it, and what of a value it could be instead. */
export function useOffering(closing: (id: Id) => Id | undefined): {
  ports: ShallowRef<OfferedPort[]>
  parts: ShallowRef<string[]>
  offer: (from: Pending | null, near: { x: number; y: number }) => Promise<void>
} {
  const graphs = useGraphs()
  const ports = shallowRef<OfferedPort[]>([])
  const parts = shallowRef<string[]>([])
  const called = (id: Id): string => graphs.slips.get(id)?.title || graphs.given.get(id)?.called || ''

  /** The slips that depend on one. */
  function behind(slip: Id): Set<Id> {
    const out = new Set([slip])
    for (const id of out) for (const w of graphs.wires) if (w.from === id) out.add(w.to)
    return out
  }

  /** The inputs that take what an output gives: those that nothing is led to first. */
  async function inputs({ slip, port }: End): Promise<OfferedPort[]> {
    const fits = await graphs.fitsFrom({ slip, ...(port !== whole && { out: port }) })
    const open = [...fits.values()].filter((f) => !f.refused && !closing(f.slip))
    const wired = (f: { slip: Id; in: string }): boolean => graphs.leading.has(`${f.slip}/${f.in}`)
    return open
      .sort((a, b) => Number(wired(a)) - Number(wired(b)))
      .map((f) => {
        const name = graphs.given.get(f.slip)?.ins.find((p) => p.key === f.in)?.name
        return {
          name: name ? `${called(f.slip)}: ${name}` : called(f.slip),
          help: f.doubt ?? (wired(f) ? 'on this sheet, in place of its cable' : 'on this sheet'),
          end: { slip: f.slip, port: f.in },
        }
      })
  }

  function outputs({ slip }: End): OfferedPort[] {
    const after = behind(slip)
    return graphs.shown.slips
      .filter((s) => !after.has(s.id) && !closing(s.id))
      .flatMap((s) =>
        s.outs.map((o) => ({
          name: o.key ? `${called(s.id)}: ${o.key}` : called(s.id),
          help: 'on this sheet',
          end: { slip: s.id, port: o.key || whole },
        })),
      )
  }

  async function offer(from: Pending | null, near: { x: number; y: number }): Promise<void> {
    ports.value = []
    parts.value = []
    if (!from) return
    const found = from.out ? await inputs(from.end) : outputs(from.end)
    const away = ({ end }: OfferedPort): number => {
      const at = graphs.slips.get(end.slip)?.at ?? [0, 0]
      return Math.hypot(at[0] - near.x, at[1] - near.y)
    }
    ports.value = found.sort((a, b) => Number(a.help.includes('in place')) - Number(b.help.includes('in place')) || away(a) - away(b))
    const outs = graphs.given.get(from.end.slip)?.outs ?? []
    const others = outs.length > 1 ? outs.map((o) => o.key) : (outs[0]?.parts ?? [])
    if (from.out) parts.value = others.filter((p) => p !== from.end.port)
  }
  return { ports, parts, offer }
}
