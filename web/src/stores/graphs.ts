import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { coalesced } from '@/composables/coalesced'
import { core } from '@/core/client'
import type { Gestures, Graph, Id, ShownGraph, ShownSlip, Slip, Wire } from '@/core/types'
import { useDocument } from './document'
import { useWorkspace } from './workspace'

/** The graphs of the composition: which one is open, what its slips give, and what is done with them. */
export const useGraphs = defineStore('graphs', () => {
  const doc = useDocument()
  const workspace = useWorkspace()
  const opened = ref<Id>('')
  /** Which member of a row is looked at; -1: the one in the middle. */
  const member = ref(-1)
  const shown = shallowRef<ShownGraph>({ slips: [] })
  /** The slips that are selected on the sheet. */
  const picked = ref<Id[]>([])

  const list = computed(() => doc.graphs)
  const graph = computed<Graph | undefined>(() => list.value.find((g) => g.id === opened.value) ?? list.value[0])
  const slips = computed(() => new Map((graph.value?.slips ?? []).map((s) => [s.id, s])))
  const given = computed(() => new Map(shown.value.slips.map((s) => [s.id, s])))
  const visible = computed(() => workspace.tab === 'graph' && !!graph.value)

  /** Asks what the slips give at the frame that is shown; what is asked meanwhile is asked once, after it. */
  const refresh = coalesced(async () => {
    if (!visible.value || !graph.value) return
    const { result } = await core.ask('slips', { graph: graph.value.id, member: member.value })
    if (result) shown.value = result
  })
  doc.painters.add(() => {
    if (visible.value) void refresh()
  })
  watch([visible, graph, member], () => void refresh())

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

  /** Puts slips down, with wires; those of new slips are called #0, #1 and so on. */
  async function put(fresh: Omit<Slip, 'id'>[], wires: Wire[] = []): Promise<Id[]> {
    if (!graph.value) return []
    const made = await doc.gesture('put slips', { graph: graph.value.id, slips: fresh.map((s) => ({ ...s, id: '' })), wires })
    if (made?.made?.length) picked.value = made.made
    return made?.made ?? []
  }

  const edit = (slip: Slip, what: Partial<Slip>): void => {
    if (graph.value) void doc.operations({ op: 'slip.set', graph: graph.value.id, value: { ...slip, ...what } })
  }

  /** Moves slips to where they were dragged. */
  function move(places: { id: Id; at: [number, number] }[]): void {
    const g = graph.value
    if (!g) return
    const ops = places.flatMap(({ id, at }) => {
      const slip = slips.value.get(id)
      return slip && (slip.at[0] !== at[0] || slip.at[1] !== at[1])
        ? [{ op: 'slip.set' as const, graph: g.id, value: { ...slip, at } }]
        : []
    })
    if (ops.length) void doc.operations(...ops)
  }

  function take(ids: Id[]): void {
    if (graph.value && ids.length) void doc.gesture('take slips', { graph: graph.value.id, slips: ids })
    picked.value = []
  }

  const unplug = (wire: Wire): void => {
    if (graph.value) void doc.operations({ op: 'wire.remove', graph: graph.value.id, to: wire.to, in: wire.in })
  }

  /** How a slip is read out: its name, and what comes to its inputs. */
  function spoken(slip: ShownSlip): string {
    const wires = graph.value?.wires ?? []
    const ins = slip.ins.map((p) => {
      const from = wires.find((w) => w.to === slip.id && w.in === p.key)
      const text = slips.value.get(slip.id)?.fields?.[p.key]
      return `input ${p.name || p.key} ${from ? 'from ' + (given.value.get(from.from)?.called ?? '') : (text ?? 'empty')}`
    })
    return [slip.called, ...ins, slip.fault ?? ''].filter(Boolean).join(', ')
  }

  return { opened, member, shown, picked, list, graph, slips, given, open, make, openLink, put, edit, move, take, unplug, spoken, refresh }
})
