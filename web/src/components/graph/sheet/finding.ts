import { computed, type ComputedRef, type Ref as Reactive } from 'vue'
import { useEnds } from '@/composables/ends'
import { useGatherables } from '@/composables/gatherables'
import type { Id, Ref, Slip } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import type { OfferedPort } from './offering'

/** A slip that is to be made. */
export type Made = Pick<Slip, 'kind' | 'text' | 'fields' | 'stops'>

/** Something that can be put on the sheet, or that lies there. */
export interface Found {
  name: string
  help: string
  slip?: Made
  there?: Id // a slip that lies on the sheet
  port?: OfferedPort // of one
  part?: string // of the value
  drive?: Ref[] // what a drive slip is to drive at once
}

/** What is asked for, besides what is typed. */
interface Asked {
  /** What the cable in the hand wants: something that takes a value, or something that gives one. */
  wanted?: 'takes' | 'gives'
  ports: OfferedPort[] // of slips that are there, to which the cable in the hand can be led
  parts: string[] // of its value, which could be led on instead
}
const most = 120
const mostPorts = 12 // before something is typed

/** Finds what to put on the sheet by part of its name; ready tells when all is known that can be found. */
export function useFinding(ask: Asked, typed: Reactive<string>): { found: ComputedRef<Found[]>; ready: Promise<void> } {
  const doc = useDocument()
  const graphs = useGraphs()
  const selection = useSelection()
  const ends = useEnds()

  const allTools = computed<Found[]>(() => [
    { name: 'drive', help: 'gives a property its value', slip: { kind: 'drive' } },
    { name: 'value', help: 'a number, a colour, a place or a text', slip: { kind: 'value', text: '1' } },
    {
      name: 'map',
      help: 'from a number to what stands at it between stops',
      slip: {
        kind: 'map',
        stops: [
          { in: 0, out: 0, easing: 'linear' },
          { in: 100, out: 100, easing: 'linear' },
        ],
      },
    },
    { name: 'formula', help: 'whose unknown names are its inputs', slip: { kind: 'formula', text: 'a + b' } },
    { name: 'readout', help: 'shows a value', slip: { kind: 'readout' } },
    { name: 'note', help: 'what is said of some slips', slip: { kind: 'note', text: '' } },
    ...doc.catalogue.operators.map((o): Found => ({ name: o.name, help: `${o.text} · ${o.help}`, slip: { kind: 'apply', text: o.text } })),
    ...doc.catalogue.functions.map((f): Found => ({ name: f.name, help: f.help, slip: { kind: 'apply', text: f.name } })),
    ...doc.catalogue.words.map((w): Found => ({ name: w.text, help: w.outs.join(', '), slip: { kind: 'words', text: w.text } })),
  ])

  /** An operator with a number behind it, such as "* 3". */
  const arithmetic = computed<Found[]>(() => {
    const m = /^([-+*/^])\s*(\S.*)$/.exec(typed.value.trim())
    const operator = m && doc.catalogue.operators.find((o) => o.text === m[1])
    return m && operator
      ? [
          {
            name: `${operator.name} ${m[2]}`,
            help: operator.help,
            slip: { kind: 'apply', text: operator.text, fields: { 2: m[2] as string } },
          },
        ]
      : []
  })

  /** A vertex by its number, of what has some: "Crate vertex 3", in its own space or the composition's. */
  const vertices = computed<Found[]>(() => {
    const m = /^(.*?)\s*\b(world\s+)?vertex\s+(\d+)$/i.exec(typed.value.trim())
    if (!m) return []
    const owner = (m[1] ?? '').toLowerCase().replace(/:$/, '')
    return doc.order.flatMap((id) => {
      const item = doc.items.get(id)
      const has = item && (item.kind === 'path' || doc.kinds.get(item.kind)?.class === 'solid')
      if (!item || !has || !item.name.toLowerCase().includes(owner)) return []
      return (m[2] ? ['world vertex'] : ['vertex', 'world vertex']).map((what) => ({
        name: `${item.name}: ${what} ${m[3]}`,
        help: what === 'vertex' ? 'in its own space' : 'in the composition',
        slip: { kind: 'read' as const, text: `{@${id}: ${what} ${m[3]}}` },
      }))
    })
  })

  /** What a value in the hand can drive at once: the properties that are selected, or one that is typed. */
  function driven(words: string[], fits: (text: string) => boolean): Found[] {
    if (ask.wanted !== 'takes') return []
    const slip: Made = { kind: 'drive' }
    const { targets } = selection
    const first = targets[0]
    const many = targets.length > 1 ? ` and ${targets.length - 1} more, as a row` : ''
    const selected: Found[] = first ? [{ name: `drive ${doc.nameOf(first)}${many}`, help: 'the selection', slip, drive: targets }] : []
    if (!words.length) return selected
    const single = doc.order.slice(0, 3000).flatMap((id) =>
      ends
        .endsOf(id, false)
        .filter((e) => !e.spec.readOnly)
        .map((e): Found => ({ name: `drive ${doc.nameOf(e.ref)}`, help: '', slip, drive: [e.ref] })),
    )
    return [...selected, ...single].filter((f) => fits(`${f.name} ${f.help}`))
  }

  const { gatherable, ask: gather } = useGatherables()
  const ready = gather()
  const lists = computed<Found[]>(() =>
    gatherable.value.map((r) => ({
      name: r.full,
      help: `list of ${r.count}${r.control ? ' · Controls' : ''}`,
      slip: { kind: 'read', text: r.stored },
    })),
  )

  const found = computed<Found[]>(() => {
    const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
    const fits = (text: string): boolean => words.every((w) => text.toLowerCase().includes(w))
    const out = [...arithmetic.value]
    const tools = allTools.value.filter((t) => suits(t.slip?.kind ?? 'note'))
    const ports = ask.ports.map((port): Found => ({ name: port.name, help: port.help, port }))
    const parts = ask.parts.map((part): Found => ({ name: `.${part}`, help: 'lead on only this part of it', part }))
    if (!words.length) return [...ports.slice(0, mostPorts), ...driven(words, fits), ...parts, ...tools]
    out.push(...driven(words, fits))
    out.push(...[...ports, ...parts].filter((p) => fits(`${p.name} ${p.help}`)))
    if (suits('read'))
      for (const id of doc.order) {
        const item = doc.items.get(id)
        if (!item || out.length > 400) continue
        for (const spec of doc.specsOf(item)) {
          const name = `${item.name}: ${spec.name}`
          if (fits(name)) out.push({ name, help: spec.group ?? '', slip: { kind: 'read', text: `{@${id}:@${spec.key}}` } })
        }
      }
    if (suits('read')) out.push(...vertices.value, ...lists.value.filter((l) => fits(`${l.name} ${l.help}`)))
    out.push(...tools.filter((t) => fits(t.name + ' ' + t.help)))
    if (!ask.wanted)
      for (const s of graphs.shown.slips) if (fits(s.called)) out.push({ name: s.called, help: 'on this sheet: show it', there: s.id })
    // What has one of its words whole comes first, then what begins with it; of properties, controls.
    const rank = (f: Found): number => {
      const first = words[0] ?? ''
      const said = f.name.toLowerCase().split(/[^\p{L}\p{N}]+/u)
      if (f.slip?.kind === 'words' && f.help.split(', ').includes(first)) return 0.5 // one of what it gives
      if (f.name.toLowerCase() === typed.value.trim().toLowerCase()) return -1
      if (f.port && words.every((w) => f.name.toLowerCase().includes(w))) return -2 // what is there comes before anything new
      return (
        (said.includes(first) ? 0 : said.some((w) => w.startsWith(first)) ? 2 : 4) +
        Number(f.slip?.kind === 'read' && f.help !== 'Controls') +
        (f.there ? 1.5 : 0) +
        (f.drive ? 3 : 0)
      )
    }
    const given = arithmetic.value.length
    return [...out.slice(0, given), ...out.slice(given).sort((a, b) => rank(a) - rank(b))].slice(0, most)
  })

  /** Whether a kind of slip can stand at the end of the cable in the hand. */
  function suits(kind: Slip['kind']): boolean {
    if (ask.wanted === 'takes') return !['read', 'value', 'words', 'note'].includes(kind)
    if (ask.wanted === 'gives') return !['drive', 'readout', 'note', 'fold'].includes(kind)
    return true
  }
  return { found, ready }
}
