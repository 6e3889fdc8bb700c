import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { coalesced } from '@/composables/coalesced'
import { core } from '@/core/client'
import type { Fit, Gestures, Graph, Id, ShownGraph, ShownSlip, Slip, SlipOutput, Source, Value, Wire } from '@/core/types'
import { useDocument } from './document'
import { useWorkspace } from './workspace'

/** Slips that were copied, with the wires among them, and where; what they read by its name, too. */
interface Copied {
  composition: Id
  slips: Slip[]
  wires: Wire[]
  /** Asked for when they are copied, since what is on the sheet may not be told yet. */
  named: Promise<Map<Id, ShownSlip>>
}

/** The graphs of the composition: which one is open, what its slips give, and what is done with them. */
export const useGraphs = defineStore('graphs', () => {
  const doc = useDocument()
  const workspace = useWorkspace()
  const opened = ref<Id>('')
  /** What a sheet is to do once it is there: have the keys, or search for what to put on it. */
  const wanted = ref<'keys' | 'search' | null>(null)
  /** Where each sheet was looked at last. */
  const looked = new Map<Id, { x: number; y: number; zoom: number }>()
  /** Which member of a row is looked at; -1: the one in the middle. */
  const member = ref(-1)
  const shown = shallowRef<ShownGraph>({ slips: [], member: 0 })
  /** The slips that are selected on the sheet. */
  const picked = ref<Id[]>([])
  /** What becomes of values on wires, by "slip/input", where there is something to say. */
  const turns = shallowRef(new Map<string, Fit>())
  const copied = shallowRef<Copied | null>(null)

  const list = computed(() => doc.graphs)
  const graph = computed<Graph | undefined>(() => list.value.find((g) => g.id === opened.value) ?? list.value[0])
  const slips = computed(() => new Map((graph.value?.slips ?? []).map((s) => [s.id, s])))
  const wires = computed(() => graph.value?.wires ?? [])
  /** The wire to each input, by "slip/input". */
  const leading = computed(() => new Map(wires.value.map((w) => [`${w.to}/${w.in}`, w])))
  const given = computed(() => new Map(shown.value.slips.map((s) => [s.id, s])))
  const visible = computed(() => workspace.tab === 'graph' && !!graph.value)

  /** What the outputs of slips give now, and then the members of lists, by slip: each of them is news only to who shows it. */
  const live = new Map<Id, Value[]>()
  const heard = new Map<Id, Set<() => void>>()
  /** The slips that are in sight: said by the sheet. */
  const sight = ref<(() => Id[]) | null>(null)

  function keep(id: Id, values: Value[]): void {
    const was = live.get(id)
    if (!was || was.length !== values.length || values.some((v, k) => v !== was[k] && String(v) !== String(was[k]))) {
      live.set(id, values)
      heard.get(id)?.forEach((hear) => hear())
    }
  }

  /** Asks what there is on the sheet; what is asked meanwhile is asked once, after it. */
  const refresh = coalesced(async () => {
    if (!visible.value || !graph.value) return
    const { result } = await core.ask('slips', { graph: graph.value.id, member: member.value })
    if (!result) return
    for (const s of result.slips) keep(s.id, [...s.outs.map((o) => o.text ?? o.value), ...s.outs.flatMap((o) => o.list?.values ?? [])])
    if (JSON.stringify(bare(result)) !== JSON.stringify(bare(shown.value))) shown.value = result
  })
  /** Without what changes from frame to frame. */
  const bare = (g: ShownGraph): unknown => ({
    ...g,
    slips: g.slips.map((s) => ({ ...s, outs: s.outs.map((o) => [o.key, o.tag, o.list && { ...o.list, values: [] }]) })),
  })

  /** Asks what the slips in sight give at the frame that is shown, all of them at once. */
  const revalue = coalesced(async () => {
    const slips = sight.value?.() ?? []
    if (!visible.value || !graph.value || !slips.length) return
    const { result } = await core.ask('slip values', { graph: graph.value.id, member: member.value, slips })
    result?.forEach((values, k) => keep(slips[k] as Id, values ?? []))
  })
  doc.painters.add(() => {
    if (visible.value) void revalue()
  })
  watch([visible, graph, member, () => doc.rested], () => void refresh(), { flush: 'post', immediate: true })

  /** Has something called whenever a slip gives other values, until what is returned is called. */
  function hear(id: Id, call: () => void): () => void {
    const all = heard.get(id) ?? new Set()
    heard.set(id, all.add(call))
    return () => {
      all.delete(call)
      if (!all.size) heard.delete(id)
    }
  }

  /** An output of a slip, with what it gives now: that is told by hear. */
  function output(slip: Id, key: string): SlipOutput {
    const outs = given.value.get(slip)?.outs ?? []
    const at = Math.max(
      0,
      outs.findIndex((o) => o.key === key),
    )
    const out = outs[at]
    if (!out) return { key: '', tag: '', value: null }
    const whole = live.get(slip)?.[at] ?? null
    const part = key && out.key !== key ? (out.parts ?? []).indexOf(key) : -1
    const value = part >= 0 && Array.isArray(whole) ? (whole[part] ?? null) : whole
    return { ...out, value, ...(part >= 0 && { tag: 'n' }), text: typeof value === 'string' ? value : undefined }
  }

  /** What the members of a slip's list give now: those that are shown. */
  const gathered = (slip: Id): Value[] => live.get(slip)?.slice(given.value.get(slip)?.outs.length) ?? []

  /** The items that the slips which are picked are about. */
  const pointed = computed(() => {
    if (!visible.value) return []
    const out = new Set<Id>()
    for (const id of picked.value) {
      const read = /^\{@([^:}]*)/.exec(slips.value.get(id)?.text ?? '')
      if (read?.[1] && slips.value.get(id)?.kind === 'read') out.add(read[1])
      for (const d of given.value.get(id)?.drives ?? []) if (d.ref.item) out.add(d.ref.item)
    }
    return [...out]
  })

  const byInput = (fits: Fit[] | null | undefined): Map<string, Fit> => new Map((fits ?? []).map((f) => [`${f.slip}/${f.in}`, f]))
  const refit = coalesced(async () => {
    if (!visible.value || !graph.value) return
    turns.value = byInput((await core.ask('fits', { graph: graph.value.id, member: member.value })).result)
  })
  watch([visible, () => graph.value?.id, () => doc.rested], () => void refit(), { immediate: true })

  /** What would become of an output at every input, by "slip/input". */
  async function fitsFrom(from: Source): Promise<Map<string, Fit>> {
    if (!graph.value) return new Map()
    return byInput((await core.ask('fits', { graph: graph.value.id, member: member.value, from })).result)
  }

  // ---- graphs

  function open(id: Id): void {
    opened.value = id
    picked.value = []
    member.value = -1
    workspace.tab = 'graph'
  }

  /** Makes a graph, of a formula or empty, and opens it. */
  async function make(using: Gestures['new graph']): Promise<void> {
    const made = await doc.gesture('new graph', using)
    if (made?.made?.[0]) open(made.made[0])
  }

  /** Opens a link as a graph. */
  async function openLink(using: Gestures['open as graph']): Promise<void> {
    const made = await doc.gesture('open as graph', using)
    if (made?.made?.[0]) open(made.made[0])
  }

  // ---- slips and wires

  /** Puts slips down, with wires; those of new slips are called #0, #1 and so on. Others may be moved. */
  async function put(fresh: Omit<Slip, 'id'>[], wires: Wire[] = [], at: Record<Id, [number, number]> = {}): Promise<Id[]> {
    if (!graph.value) return []
    const made = await doc.gesture('put slips', { graph: graph.value.id, slips: fresh.map((s) => ({ ...s, id: '' })), wires, at })
    if (made?.made?.length) picked.value = made.made
    return made?.made ?? []
  }

  const edit = (slip: Slip, what: Partial<Slip>): void => {
    if (graph.value) void doc.operations({ op: 'slip.set', graph: graph.value.id, value: { ...slip, ...what } })
  }
  const editing = (slip: Slip, what: Partial<Slip>): void => {
    if (graph.value)
      void doc.preview('operations', { ops: doc.here({ op: 'slip.set', graph: graph.value.id, value: { ...slip, ...what } }) })
  }

  /** Moves slips to where they were dragged. */
  function move(places: Record<Id, [number, number]>): void {
    const moved = Object.entries(places).filter(([id, at]) => slips.value.has(id) && String(slips.value.get(id)?.at) !== String(at))
    if (moved.length) void put([], [], Object.fromEntries(moved))
  }

  function take(ids: Id[]): void {
    if (graph.value && ids.length) void doc.gesture('take slips', { graph: graph.value.id, slips: ids })
    picked.value = []
  }

  /** Folds slips into one, which is picked then. */
  async function fold(ids: Id[]): Promise<void> {
    if (!graph.value || !ids.length) return
    const done = await doc.gesture('fold slips', { graph: graph.value.id, slips: ids })
    if (done?.made?.length) picked.value = done.made
  }
  /** Takes slips out of their cables, and closes the gaps. */
  const pull = (ids: Id[]): void => {
    if (graph.value && ids.length) void doc.gesture('pull slips', { graph: graph.value.id, slips: ids })
  }

  const unplug = (wire: Wire): void => {
    if (graph.value) void doc.operations({ op: 'wire.remove', graph: graph.value.id, to: wire.to, in: wire.in })
  }

  /** Some slips with all that lies in those of them that are folds, the folds before what lies in them. */
  function withInner(ids: Id[]): Slip[] {
    const inside = (id: Id): Slip[] => (graph.value?.slips ?? []).filter((s) => s.within === id).flatMap((s) => [s, ...inside(s.id)])
    const out = new Map<Id, Slip>()
    for (const id of ids) for (const s of [slips.value.get(id), ...inside(id)]) if (s && !out.has(s.id)) out.set(s.id, s)
    const depth = (s: Slip): number => (s.within ? 1 + depth(slips.value.get(s.within) ?? ({} as Slip)) : 0)
    return [...out.values()].sort((a, b) => depth(a) - depth(b))
  }

  /** Slips as put takes them, called #0, #1 and so on in all that names them. */
  function renamed(list: Slip[]): { slips: Omit<Slip, 'id'>[]; name: (id: Id) => Id | undefined } {
    const place = new Map(list.map((s, k) => [s.id, `#${k}`]))
    const name = (id: Id): Id | undefined => place.get(id)
    return {
      name,
      slips: list.map((s) => ({
        ...s,
        within: s.within && (name(s.within) ?? (slips.value.has(s.within) ? s.within : undefined)),
        ports: s.ports?.map((p) => ({ ...p, slip: name(p.slip) ?? p.slip })),
      })),
    }
  }

  /** Puts the slips that are picked down once more, wired among one another as they are, and to what they come from. */
  async function duplicate(by: [x: number, y: number]): Promise<void> {
    const all = withInner(picked.value)
    const { slips: fresh, name } = renamed(all)
    const leading = wires.value.flatMap((w) => {
      const to = name(w.to)
      return to ? [{ ...w, to, from: name(w.from) ?? w.from }] : []
    })
    await put(
      fresh.map((s) => ({ ...s, at: [s.at[0] + by[0], s.at[1] + by[1]] as [number, number] })),
      leading,
    )
  }

  function copy(): void {
    const all = withInner(picked.value)
    const ids = new Set(all.map((s) => s.id))
    copied.value = {
      composition: doc.compositionId,
      slips: all,
      wires: wires.value.filter((w) => ids.has(w.from) && ids.has(w.to)),
      named: namedNow(),
    }
  }
  async function namedNow(): Promise<Map<Id, ShownSlip>> {
    const { result } = await core.ask('slips', { graph: graph.value?.id ?? '', member: member.value })
    return new Map((result?.slips ?? []).map((s) => [s.id, s]))
  }

  /** Puts copies down with their upper left corner at a place. Elsewhere what they read is sought by its name. */
  async function paste(at: [number, number]): Promise<void> {
    const from = copied.value
    if (!from?.slips.length) return
    const names = await from.named
    const left = Math.min(...from.slips.map((s) => s.at[0]))
    const top = Math.min(...from.slips.map((s) => s.at[1]))
    const { slips: fresh, name } = renamed(from.slips)
    const elsewhere = (s: Omit<Slip, 'id'>, id: Id): Partial<Slip> => {
      const named = from.composition === doc.compositionId ? undefined : names.get(id)
      return { text: named?.text ?? s.text, fields: named?.fields ? { ...s.fields, ...named.fields } : s.fields }
    }
    await put(
      fresh.map((s, k) => ({
        ...s,
        at: [at[0] + s.at[0] - left, at[1] + s.at[1] - top] as [number, number],
        within: s.within?.startsWith('#') ? s.within : undefined,
        ...elsewhere(s, from.slips[k]?.id ?? ''),
      })),
      from.wires.map((w) => ({ ...w, from: name(w.from) ?? '', to: name(w.to) ?? '' })),
    )
  }

  /** How a slip is read out: its name, and what comes to its inputs. */
  function spoken(slip: ShownSlip): string {
    const ins = slip.ins.map((p) => {
      const from = leading.value.get(`${slip.id}/${p.key}`)
      const text = slip.fields?.[p.key] ?? slips.value.get(slip.id)?.fields?.[p.key]
      return `input ${p.name || p.key} ${from ? 'from ' + (given.value.get(from.from)?.called ?? '') : (text ?? 'empty')}`
    })
    return [slip.called, ...ins, slip.fault ?? ''].filter(Boolean).join(', ')
  }

  return {
    opened,
    wanted,
    looked,
    member,
    shown,
    picked,
    turns,
    copied,
    list,
    graph,
    slips,
    wires,
    leading,
    given,
    sight,
    pointed,
    output,
    gathered,
    hear,
    fitsFrom,
    open,
    make,
    openLink,
    put,
    edit,
    editing,
    move,
    take,
    unplug,
    fold,
    pull,
    withInner,
    duplicate,
    copy,
    paste,
    spoken,
    revalue,
  }
})
