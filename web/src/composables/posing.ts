import { computed } from 'vue'
import type { AtStop, Control, Gestures, Id, Link, Spec } from '@/core/types'
import { nowhere, specOfRow } from './roster'
import { useDocument } from '@/stores/document'
import { usePosingStop } from '@/stores/posing'

/** Where a link is: on a property, or on a row. */
type LinkAt = Pick<Gestures['hold at stop'], 'target' | 'link' | 'spread'>

/** What a control of poses moves with one link: a property, or that of all members of a row. */
export interface Moved {
  at: LinkAt
  name: string
  /** The item, or the row, and what that is; and the property, by itself. */
  of: string
  what: string
  property: string
  spec: Spec | undefined
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

  const propertyOf = (spec: Spec | undefined, part?: string): string => (spec?.name ?? 'deleted') + (part ? '.' + part : '')

  /** What a control moves by its poses: properties in the order of the tree, then rows. */
  function moved(item: Id, control: Id): Moved[] {
    const by = (l: Link): boolean => l.kind === 'pose' && l.source.item === item && l.source.property === control
    const single = doc.order.flatMap((id) =>
      Object.entries(doc.statesOf(id)).flatMap(([property, state]) =>
        (state.links ?? []).filter(by).map((link) => ({
          at: { target: { item: id, property }, link: link.id },
          name: doc.nameOf({ item: id, property, component: link.component }),
          of: doc.items.get(id)?.name ?? '',
          what: doc.kinds.get(doc.items.get(id)?.kind ?? 'null')?.name ?? '',
          property: propertyOf(doc.spec(id, property), link.component),
          spec: doc.spec(id, property),
          link,
        })),
      ),
    )
    const rows = doc.spreads
      .filter((s) => by(s.link))
      .map((s) => ({
        at: { target: nowhere, spread: s.id },
        name: s.roster.kind === 'copies' ? s.name : `${s.name} (${s.members?.length ?? 0})`,
        of: s.name,
        what: s.roster.kind === 'copies' ? 'row of copies' : `row of ${s.members?.length ?? 0}`,
        property: propertyOf(specOfRow(doc, s), s.component),
        spec: specOfRow(doc, s),
        link: { ...s.link, component: s.component },
      }))
    return [...single, ...rows]
  }

  return { stop, posed, begin, end, controlOf, placeOf, moved }
}
