import { useVueFlow } from '@vue-flow/core'
import type { Ref } from '@/core/types'
import { message } from '@/composables/notify'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { endOf } from './view'

/**
 * Jacks of the Desk and the Card that a cable was pulled from and dropped here: what they are of is read, and led to the input
 * that it was dropped on; at the right edge of the sheet, or on a drive slip, it is driven.
 */
export function useJacks(
  host: () => HTMLElement | null,
  free: (at: { x: number; y: number }) => [number, number],
): (event: CustomEvent<{ refs: Ref[]; x: number; y: number }>) => Promise<void> {
  const graphs = useGraphs()
  const doc = useDocument()
  const { screenToFlowCoordinate, findNode } = useVueFlow('sheet')

  return async ({ detail }) => {
    const box = host()?.getBoundingClientRect()
    const [first] = detail.refs
    const graph = graphs.graph?.id
    if (!box || !first || !graph) return
    const under = document.elementFromPoint(detail.x, detail.y)
    const node = findNode(under?.closest('.vue-flow__node')?.getAttribute('data-id') ?? '')
    const handle = under?.closest('.vue-flow__handle')
    const drives = (slip: string): Promise<unknown> => doc.gesture('drive', { graph, slip, targets: detail.refs })
    if (node && !handle && graphs.slips.get(node.id)?.kind === 'drive') return void (await drives(node.id))
    const copied = !doc.items.has(first.item) // of copies, which can be driven, not read
    if (!node && (copied || detail.x > box.left + (2 * box.width) / 3)) {
      const [slip] = await graphs.put([{ kind: 'drive', at: free(screenToFlowCoordinate(detail)) }])
      return void (slip && (await drives(slip)))
    }
    if (copied) return void message.warning('Copies can be driven, not read. Drop the cable on a drive slip or on the sheet.')
    const end = node && endOf(node.id, handle?.getAttribute('data-handleid'))
    const inputs = graphs.given.get(end?.slip ?? '')?.ins ?? []
    const input = inputs.find((p) => p.key === end?.port) ?? inputs.find((p) => !graphs.leading.has(`${end?.slip}/${p.key}`))
    const beside = node && { x: node.position.x - 240, y: node.position.y }
    const part = first.component ? '.' + first.component : ''
    await graphs.put(
      [{ kind: 'read', text: `{@${first.item}:@${first.property}${part}}`, at: free(beside ?? screenToFlowCoordinate(detail)) }],
      end && input ? [{ from: '#0', to: end.slip, in: input.key }] : [],
    )
  }
}
