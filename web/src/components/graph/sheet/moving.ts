import { useVueFlow, type NodeDragEvent } from '@vue-flow/core'
import { ref } from 'vue'
import { useStepping } from '@/composables/stepping'
import type { Id, Slip, Wire } from '@/core/types'
import { useGraphs } from '@/stores/graphs'

type Places = Record<Id, [number, number]>

/** Slips that are dragged, or moved by keys: those on a note or in a fold go along. One that is let go on a cable goes between. */
export function useMoving(wireOf: (edge: string) => Wire | undefined): {
  over: ReturnType<typeof ref<string>>
  start: (e: NodeDragEvent) => void
  move: (e: NodeDragEvent) => void
  stop: (e: NodeDragEvent) => void
  /** Moves the slips that are picked by so much. */
  nudge: (x: number, y: number) => void
} {
  const graphs = useGraphs()
  const { findNode, getEdges, screenToFlowCoordinate } = useVueFlow('sheet')
  /** The cable that the slip would go into. */
  const over = ref<string>()
  let along = new Map<Id, { from: [number, number]; by: Id }>()
  let begun = new Map<Id, { x: number; y: number }>()

  const size = (id: Id): { width: number; height: number } => findNode(id)?.dimensions ?? { width: 0, height: 0 }

  /** What lies on a note. */
  function on(note: Slip): Slip[] {
    const [w, h] = note.size ?? [260, 150]
    return [...graphs.slips.values()].filter((s) => {
      const d = size(s.id)
      const x = s.at[0] + d.width / 2 - note.at[0]
      const y = s.at[1] + d.height / 2 - note.at[1]
      return s.id !== note.id && x > 0 && y > 0 && x < w && y < h
    })
  }

  /** What goes along with a slip. */
  function carried(id: Id): Slip[] {
    const slip = graphs.slips.get(id)
    return slip?.kind === 'note' ? on(slip) : slip?.kind === 'fold' ? graphs.withInner([id]) : []
  }

  function start({ nodes }: NodeDragEvent): void {
    along = new Map()
    begun = new Map(nodes.map((n) => [n.id, { ...n.position }]))
    for (const n of nodes) for (const s of carried(n.id)) if (!begun.has(s.id)) along.set(s.id, { from: s.at, by: n.id })
  }

  function move({ nodes, event }: NodeDragEvent): void {
    for (const [id, { from, by }] of along) {
      const node = findNode(id)
      const lead = nodes.find((n) => n.id === by)
      const was = begun.get(by)
      if (node && lead && was) node.position = { x: from[0] + lead.position.x - was.x, y: from[1] + lead.position.y - was.y }
    }
    over.value = undefined
    const [only] = nodes
    if (nodes.length === 1 && only && event instanceof MouseEvent && gapOf(only.id)) over.value = cableUnder(only.id, event)
  }

  /** The inputs where a slip could go between: it gives something, and is led nothing there yet. */
  function gapOf(id: Id): string | undefined {
    const slip = graphs.slips.get(id)
    if (!slip || !graphs.given.get(id) || graphs.wires.some((w) => w.from === id)) return undefined
    if (['read', 'value', 'words', 'drive', 'readout', 'note', 'fold'].includes(slip.kind)) return undefined
    return graphs.given.get(id)?.ins.find((p) => !graphs.leading.has(`${id}/${p.key}`))?.key
  }

  /** The cable that runs under the pointer, or through the middle of a slip. */
  function cableUnder(id: Id, event: MouseEvent): string | undefined {
    const node = findNode(id)
    if (!node) return undefined
    const pointer = screenToFlowCoordinate({ x: event.clientX, y: event.clientY })
    const middle = { x: node.position.x + node.dimensions.width / 2, y: node.position.y + node.dimensions.height / 2 }
    for (const at of [pointer, middle])
      for (const edge of getEdges.value) {
        if (edge.source === id || edge.target === id) continue
        for (let t = 0.1; t < 0.95; t += 0.05) {
          const u = 1 - t
          const x = edge.sourceX + (edge.targetX - edge.sourceX) * t
          const y = u * u * u * edge.sourceY + 3 * u * t * ((edge.sourceY + edge.targetY) / 2 + 14) + t * t * t * edge.targetY
          if (Math.abs(x - at.x) < 26 && Math.abs(y - at.y) < 22) return edge.id
        }
      }
    return undefined
  }

  function stop({ nodes }: NodeDragEvent): void {
    const cable = over.value && wireOf(over.value)
    over.value = undefined
    const places: Places = {}
    for (const n of nodes) places[n.id] = [Math.round(n.position.x), Math.round(n.position.y)]
    for (const [id, { from, by }] of along) {
      const was = begun.get(by)
      const lead = places[by]
      if (was && lead) places[id] = [Math.round(from[0] + lead[0] - was.x), Math.round(from[1] + lead[1] - was.y)]
    }
    const [only] = nodes
    const input = only && gapOf(only.id)
    if (cable && only && input) {
      void graphs.put(
        [],
        [
          { from: cable.from, ...(cable.out && { out: cable.out }), to: only.id, in: input },
          { from: only.id, to: cable.to, in: cable.in },
        ],
        places,
      )
    } else graphs.move(places)
  }

  const steps = useStepping<Places>(() => ({}))
  function nudge(x: number, y: number): void {
    const led = steps.from()
    const all = new Set(graphs.picked.flatMap((id) => [id, ...carried(id).map((s) => s.id)]))
    const places: Places = {}
    for (const id of all) {
      const at = led[id] ?? graphs.slips.get(id)?.at
      if (at) places[id] = [at[0] + x, at[1] + y]
    }
    graphs.move(steps.to(places))
  }

  return { over, start, move, stop, nudge }
}
