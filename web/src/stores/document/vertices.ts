import { shallowReactive } from 'vue'
import { core } from '@/core/client'
import type { Id, Item, Spec, Vertex } from '@/core/types'

/** The vertices of items as properties to link: asked of the core when somebody first wants them, and anew when their item changes. */
export function useVertices(items: ReadonlyMap<Id, Item>) {
  const known = shallowReactive(new Map<Id, { of: Item; specs: Spec[] }>())
  const asked = new Set<Id>()

  const isKey = (key: string): boolean => /^(v|worldV)ertex\d+$/.test(key)

  function specOf(item: Item, key: string, name: string, readOnly: boolean): Spec {
    const own = item.specs?.find((s) => s.key === key)
    if (own) return own
    const flat = item.path === true && !readOnly
    const parts = flat ? ['x', 'y'] : ['x', 'y', 'z']
    const place = { softMin: -500, softMax: 500, step: 1, column: -1, offset: -1, default: 0, parts, readOnly, spaced: !readOnly }
    return { ...place, key, name, group: 'Vertices', type: flat ? 'point2' : 'point3', unit: 'px', tag: flat ? 'xy' : 'xyz' }
  }

  const specsFrom = (item: Item, vertices: Vertex[]): Spec[] =>
    vertices.flatMap((v) => [
      specOf(item, v.key, `vertex ${v.number}`, false),
      specOf(item, 'worldV' + v.key.slice(1), `world vertex ${v.number}`, true),
    ])

  /** The vertices of an item, own ones and those in the composition; none before they are there. */
  function verticesOf(id: Id): Spec[] {
    const item = items.get(id)
    const found = known.get(id)
    if (item && found?.of !== item) void read(item)
    return found?.specs ?? []
  }

  async function read(item: Item): Promise<Spec[]> {
    if (!asked.has(item.id)) {
      asked.add(item.id)
      const { result } = await core.ask('vertices', item.id)
      asked.delete(item.id)
      known.set(item.id, { of: item, specs: specsFrom(item, result ?? []) })
    }
    return known.get(item.id)?.specs ?? []
  }

  /** A vertex by its key; before the vertices were read, one without its number. */
  function vertex(item: Item, key: string): Spec | undefined {
    if (!isKey(key)) return undefined
    const own = item.specs?.find((s) => s.key === key)
    return (
      own ??
      verticesOf(item.id).find((s) => s.key === key) ??
      specOf(item, key, key.startsWith('w') ? 'world vertex' : 'vertex', key.startsWith('w'))
    )
  }

  return { verticesOf, vertex, forget: () => known.clear() }
}
