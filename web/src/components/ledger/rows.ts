import { computed, ref, shallowRef, watch, type Ref as Reactive } from 'vue'
import { useLinks } from '@/composables/links'
import type { Link, Ref, RosterLink } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'

export interface Row {
  key: string
  at: Ref
  link: Link
  spread?: RosterLink
  source: string
  target: string
  text: string
}

export interface Heading {
  key: string
  title: string
  rows: Row[]
}

export type Order = 'target' | 'source' | 'kind'

/** Every link of the composition as a row: sought, sorted, in groups. */
export function useRows(order: Reactive<Order>) {
  const doc = useDocument()
  const links = useLinks()
  const workspace = useWorkspace()
  const all = shallowRef<Row[]>([])

  /** A formula in one line, without its comments. */
  const written = (key: string): string =>
    (doc.formulas[key] ?? '')
      .replace(/\/\/.*$/gm, '')
      .replace(/\s*\n\s*/g, ' · ')
      .trim()

  function gather(): void {
    const out: Row[] = []
    const names = new Map<string, string>()
    const name = (r: Ref): string => {
      const key = `${r.item}/${r.property}.${r.component ?? ''}`
      let n = names.get(key)
      if (n === undefined) names.set(key, (n = doc.nameOf(r)))
      return n
    }
    const told = (link: Link, key: string): string => (links.kind(link.kind)?.sourced ? name(link.source) : links.from(link, written(key)))
    const titles = (link: Link): string =>
      (doc.graphs.find((g) => g.id === link.graph)?.slips ?? []).map((slip) => slip.title ?? '').join(' ')
    const sought = (link: Link, source: string, target: string): string => `${source} ${target} ${link.kind} ${titles(link)}`.toLowerCase()
    for (const id of doc.order) {
      for (const [property, state] of Object.entries(doc.statesOf(id))) {
        for (const link of state.links ?? []) {
          const at = { item: id, property, component: link.component }
          const [source, target] = [told(link, `${id}/${link.id}`), name(at)]
          out.push({ key: `${id}/${link.id}`, at, link, source, target, text: sought(link, source, target) })
        }
      }
    }
    for (const s of doc.spreads) {
      const at = { ...(s.members?.[0] ?? { item: s.roster.item ?? '', property: s.property }), component: s.component }
      const source = told(s.link, s.id)
      const target = s.roster.kind === 'copies' ? s.name : `${s.name} (${s.members?.length ?? 0})`
      out.push({
        key: `${s.id}/${s.link.id}`,
        at,
        link: s.link,
        spread: s,
        source,
        target,
        text: sought(s.link, source, target) + ' roster',
      })
    }
    all.value = out
  }
  watch([() => doc.rested, () => doc.formulas], gather, { immediate: true })

  const rows = computed(() => {
    const words = workspace.sought.toLowerCase().split(/\s+/).filter(Boolean)
    const list = all.value.filter((r) => words.every((w) => r.text.includes(w)))
    const by = order.value
    if (by === 'target') return list
    return [...list].sort((a, b) => (by === 'source' ? a.source.localeCompare(b.source) : a.link.kind.localeCompare(b.link.kind)))
  })
  /** The rows with a heading above all that have the same source, target's item or kind, in the order of the rows. */
  const grouped = ref(false)
  const entries = computed<(Row | Heading)[]>(() => {
    if (!grouped.value) return rows.value
    const groups = new Map<string, Row[]>()
    for (const r of rows.value) {
      const title = order.value === 'source' ? r.source : order.value === 'kind' ? r.link.kind : (doc.items.get(r.at.item)?.name ?? '')
      const list = groups.get(title)
      if (list) list.push(r)
      else groups.set(title, [r])
    }
    return [...groups].flatMap(([title, list]) => [{ key: 'group/' + title, title, rows: list }, ...list])
  })

  return { all, rows, entries, grouped }
}
