import { computed } from 'vue'
import type { AtStop, Control, Id, Link } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePosingStop } from '@/stores/posing'

/** One property that a control of poses moves, with the link that does it. */
export interface Moved {
  item: Id
  property: string
  link: Link
}

/** Posing the stops of controls, and what they move. */
export function usePosing() {
  const doc = useDocument()
  const stop = usePosingStop()

  const controlOf = (item: Id, control: Id): Control | undefined => doc.items.get(item)?.controls?.find((c) => c.id === control)

  /** The stop that is posed, by names; undefined while none is. */
  const posed = computed(() => {
    const control = stop.at && controlOf(stop.at.item, stop.at.control)
    const at = control?.poses?.find((s) => s.id === stop.at?.stop)
    return control && at ? { control, at } : undefined
  })

  async function end(): Promise<void> {
    const was = stop.at
    stop.at = null
    if (was && controlOf(was.item, was.control))
      await doc.gesture('use pose', { targets: [{ item: was.item, property: was.control }], as: '' })
  }

  async function begin(at: AtStop): Promise<void> {
    await end()
    if (await doc.gesture('pose stop', at)) stop.at = at
  }

  /** Where a control stands at one of its stops. */
  const placeOf = (control: Control, k: number): number => (control.kind === 'fader' ? (control.poses?.[k]?.at ?? 0) : k)

  /** What a control moves by its poses, in the order of the tree. */
  function moved(item: Id, control: Id): Moved[] {
    return doc.order.flatMap((id) =>
      Object.entries(doc.items.get(id)?.states ?? {}).flatMap(([property, state]) =>
        (state.links ?? [])
          .filter((l) => l.kind === 'pose' && l.source.item === item && l.source.property === control)
          .map((link) => ({ item: id, property, link })),
      ),
    )
  }

  return { stop, posed, begin, end, controlOf, placeOf, moved }
}
