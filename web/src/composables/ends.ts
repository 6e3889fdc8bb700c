import type { Id, Ref, Spec, ValueType } from '@/core/types'
import { useDocument } from '@/stores/document'

/** What a link can begin or end at: a property, one of its components, a vertex. */
export interface End {
  ref: Ref
  /** As it is called on its item. */
  name: string
  type: ValueType
  tag: string
  spec: Spec
}

/** The properties of a copy that can be driven. */
export const copySpecs = (doc: ReturnType<typeof useDocument>): Spec[] =>
  (doc.kinds.get('copy')?.specs ?? []).filter(
    (s) => !s.readOnly && s.group !== 'Parent' && !['pivot', 'rotationX', 'rotationY'].includes(s.key),
  )

/** All that can be linked of items, components and vertices among it. */
export function useEnds() {
  const doc = useDocument()

  const partsOf = (item: Id, spec: Spec): End[] =>
    (spec.parts ?? []).map((component) => ({
      ref: { item, property: spec.key, component },
      name: `${spec.name}.${component}`,
      type: 'number',
      tag: 'n',
      spec,
    }))
  const whole = (item: Id, spec: Spec): End => ({
    ref: { item, property: spec.key },
    name: spec.name,
    type: spec.type,
    tag: spec.tag,
    spec,
  })

  /** The ends of an item: its properties, and, behind each, its components. */
  function endsOf(item: Id, vertices: boolean): End[] {
    const it = doc.items.get(item)
    if (!it) return []
    return [...doc.specsOf(it).filter((s) => s.group !== 'Vertices'), ...(vertices ? doc.verticesOf(item) : [])].flatMap((spec) => [
      whole(item, spec),
      ...partsOf(item, spec),
    ])
  }

  /** The ends that components are worked out of, such as the hue of a colour: they can be driven, and not read by a link. */
  const workedOf = (item: Id): End[] =>
    (doc.items.get(item) ? doc.specsOf(doc.items.get(item)!) : []).flatMap((spec) =>
      (spec.worked ?? []).map((component) => ({
        ref: { item, property: spec.key, component },
        name: `${spec.name}.${component}`,
        type: 'number' as const,
        tag: 'n',
        spec,
      })),
    )

  /** What can be driven of each copy that an item shows; the first copy stands for all of them. */
  function copiedOf(item: Id): End[] {
    if (doc.items.get(item)?.kind !== 'copies') return []
    return copySpecs(doc).map((spec) => ({ ...whole(`${item}~1`, spec), name: `each copy: ${spec.name}` }))
  }

  return { endsOf, workedOf, copiedOf }
}
