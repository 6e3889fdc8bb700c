import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import { useCardGroups } from './cardGroups'
import { dialog } from './notify'
import { usePosing } from './posing'

const most = 60

/** Something that is found by its name. */
export interface Found {
  name: string
  selected?: boolean // a property of what is selected
  sort: string // what it is
  more?: string // its keys, its usage
  also?: string // other words for it
  go: () => unknown
  /** Gives the keys to what was found, for who has no pointer. */
  land?: () => unknown
}

/** Finds everything by its name: commands, items, controls, properties, compositions, graphs, functions of formulas. */
export function useEverything(typed: Ref<string>): ComputedRef<Found[]> {
  const doc = useDocument()
  const graphs = useGraphs()
  const selection = useSelection()
  const workspace = useWorkspace()
  const posing = usePosing()
  const landOn = (...selectors: string[]): void =>
    selectors
      .map((s) => document.querySelector<HTMLElement>(s))
      .find((e) => e)
      ?.focus()

  function help(name: string, usage: string, text: string): void {
    dialog('info', { title: `${name} (in formulas and graphs)`, content: `${usage}: ${text}`, positiveText: 'Close', closable: false })
  }

  /** What is there besides properties, which are looked through only where something is typed. */
  const things = computed<Found[]>(() => [
    ...workspace.commands.flatMap((c) => (c.run ? [{ name: c.what, also: c.also, sort: 'Command', more: c.keys, go: c.run }] : [])),
    ...doc.order.map((id) => ({
      name: doc.items.get(id)?.name ?? '',
      sort: 'Item',
      go: () => selection.pick(id),
      land: () => workspace.tree?.reach(id),
    })),
    ...doc.controlled.flatMap((id) =>
      (doc.items.get(id)?.controls ?? []).map((c) => ({
        name: `${doc.items.get(id)?.name}: ${c.name}`,
        sort: 'Control',
        go: () => {
          workspace.tab = 'desk'
          selection.pickControl({ item: id, property: c.id })
        },
        land: () => landOn('[data-control].picked [role=slider]', '[data-control].picked .called button'),
      })),
    ),
    ...doc.compositions.map((c) => ({ name: c.name, sort: 'Composition', go: () => doc.select(c.id) })),
    ...doc.graphs.map((g) => ({
      name: g.name,
      sort: 'Graph',
      go: () => {
        graphs.open(g.id)
        graphs.wanted = 'keys'
      },
    })),
    ...doc.graphs.flatMap((g) =>
      (g.slips ?? []).map((s) => ({
        name: `${g.name}: ${s.title || s.kind}`,
        sort: 'Slip',
        go: () => {
          graphs.open(g.id)
          graphs.picked = [s.id]
          graphs.wanted = 'keys'
        },
      })),
    ),
    ...doc.controlled.flatMap((id) =>
      (doc.items.get(id)?.controls ?? []).flatMap((c) =>
        (c.poses ?? []).map((s) => ({
          name: `Pose ${c.name}: ${s.name}`,
          sort: 'Stop',
          go: () => posing.begin({ item: id, control: c.id, stop: s.id }),
        })),
      ),
    ),
    ...doc.catalogue.recipes.map((r) => ({ name: `Recipe: ${r.name}`, sort: 'Recipe', go: () => (workspace.recipe = r.key) })),
    ...doc.catalogue.functions.map((f) => ({ name: f.name, sort: 'Help', more: f.usage, go: () => help(f.name, f.usage, f.help) })),
  ])
  const shared = useCardGroups(ref(''))
  /** The properties that several selected items have. */
  const ofAll = computed<Found[]>(() =>
    selection.ids.length < 2
      ? []
      : shared.value.flatMap(([, specs]) =>
          specs.map((s) => ({
            name: `All ${selection.ids.length} selected: ${s.name}`,
            sort: 'Property',
            selected: true,
            go: () => selection.pickProperty(s.key, false),
            land: () => workspace.card?.reach(s.key),
          })),
        ),
  )
  const properties = computed<Found[]>(() =>
    doc.order.slice(0, 2000).flatMap((id) => {
      const item = doc.items.get(id)
      return item
        ? doc
            .specsOf(item)
            .filter((s) => s.group !== 'Controls')
            .map((s) => ({
              name: `${item.name}: ${s.name}`,
              sort: 'Property',
              selected: selection.has(id),
              go: () => {
                selection.pick(id)
                selection.pickProperty(s.key, false)
              },
              land: () => workspace.card?.reach(s.key),
            }))
        : []
    }),
  )

  return computed<Found[]>(() => {
    if (!workspace.searching) return []
    const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
    const fits = (f: Found): boolean => words.every((w) => `${f.name} ${f.also ?? ''}`.toLowerCase().includes(w))
    const text = typed.value.trim().toLowerCase()
    /**
     * What is called just so comes first, then what begins so, on its own or behind its item, then that of which words begin so; properties
     * behind them, those of what is selected first; last what only has it within a word.
     */
    const rank = (f: Found): number => {
      const names = [f.name, f.name.split(': ')[1] ?? ''].map((n) => n.toLowerCase())
      const begin = `${f.name} ${f.also ?? ''}`.toLowerCase().split(/[^\p{L}\p{N}]+/u)
      const near = names.includes(text) ? 0 : names.some((n) => n.startsWith(text)) ? 1 : 2
      const within = near === 2 && !words.every((w) => begin.some((b) => b.startsWith(w)))
      return near + (f.sort === 'Property' ? (f.selected ? 3 : 3.5) : 0) + (within ? 5 : 0)
    }
    if (!words.length) return things.value.slice(0, most)
    const ranked = (all: Found[]): { f: Found; rank: number }[] => all.filter(fits).map((f) => ({ f, rank: rank(f) }))
    const list = ranked(things.value)
    if (list.filter((l) => l.rank < 3).length < most) list.push(...ranked(ofAll.value), ...ranked(properties.value))
    return list
      .sort((a, b) => a.rank - b.rank)
      .slice(0, most)
      .map((l) => l.f)
  })
}
