import { computed, nextTick, reactive, ref, watch } from 'vue'
import { core } from '@/core/client'
import type { Control, Id, Unit, Value, Widget } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'

/** The null that is made for a control which has none to be on. */
export const newNull = 'new'

/** A fader that moves between whole states is a kind of its own in the form. */
export const posesKind = 'poses'
type Kind = Widget | typeof posesKind
const widget = (kind: Kind): Widget => (kind === posesKind ? 'fader' : kind)
export const units = (['', '%', 'px', 's', 'm', '°', '/s'] satisfies Unit[]).map((u) => ({ value: u, label: u || 'No unit' }))

const blank = () => ({
  owner: newNull as Id,
  ownerName: 'Panel',
  kind: 'fader' as Kind,
  name: '',
  unit: '%' as Unit,
  from: 0,
  to: 100,
  min: null as number | null,
  max: null as number | null,
  step: null as number | null,
  begins: 0 as Value,
  whole: false,
  depth: false,
  note: '',
  drives: true,
  entries: ['Option 1', 'Option 2'],
  stops: ['Stop 1', 'Stop 2'],
})
type Form = ReturnType<typeof blank>

/** The form of controls: for a new one, or for those that are there, one or several. */
export function useControlForm(shownFirst: () => void) {
  const doc = useDocument()
  const selection = useSelection()
  const workspace = useWorkspace()
  const wiring = useWiring()
  const form = reactive(blank())
  const wrong = ref('')
  let was = blank() // the form as it was opened
  let taking = false // what a property asks for

  const shown = computed(() => workspace.addingControl || workspace.editingControl !== null)
  /** The controls that are edited: the one whose form was asked for, and those picked with it. */
  const edited = computed(() => {
    const [item = '', id = ''] = workspace.editingControl?.split('/') ?? []
    const refs = selection.controls.some((c) => c.item === item && c.property === id) ? selection.controls : [{ item, property: id }]
    return refs.flatMap((r) => {
      const control = doc.items.get(r.item)?.controls?.find((c) => c.id === r.property)
      return control ? [{ item: r.item, control }] : []
    })
  })
  const first = computed(() => edited.value.find((e) => `${e.item}/${e.control.id}` === workspace.editingControl)?.control)
  const alike = computed(() => edited.value.every((e) => e.control.kind === first.value?.kind))
  const kinds = computed(() => new Map(doc.catalogue.controls.map((k) => [k.kind, k])))
  const kindNames = computed(() => [
    ...doc.catalogue.controls.map((k) => ({ value: k.kind as Kind, label: k.name })),
    { value: posesKind, label: 'Poses' },
  ])
  const ranged = computed(() => !!kinds.value.get(widget(form.kind))?.begins.softMax)
  const owners = computed(() => [
    ...doc.order.filter((id) => !doc.copied.has(id)).map((id) => ({ value: id, label: doc.items.get(id)?.name ?? '' })),
    { value: newNull, label: 'A new null' },
  ])

  watch(shown, (open) => {
    if (!open) return
    wrong.value = ''
    const c = first.value
    Object.assign(form, blank(), c ? describe(c) : { owner: ownerOfNew() })
    was = JSON.parse(JSON.stringify(form)) as Form
    void nextTick(shownFirst)
    if (!c) void suit()
  })
  /** A new control takes after the property that it is to drive: its kind, unit, range and value. */
  async function suit(): Promise<void> {
    const [first] = driven.value
    const suited = first && (await core.ask('control for', first)).result
    if (!suited || !workspace.addingControl || form.kind !== 'fader') return
    taking = true
    Object.assign(form, describe(suited), { note: '', name: form.name })
    await nextTick()
    taking = false
  }
  watch(
    () => form.kind,
    (kind) => {
      if (first.value || taking) return
      const begins = kinds.value.get(widget(kind))?.begins
      Object.assign(form, { from: begins?.softMin ?? 0, to: begins?.softMax ?? 0, begins: begins?.default ?? 0 })
    },
  )
  watch(
    () => form.depth,
    (depth) => {
      if (form.kind === 'point' && Array.isArray(form.begins))
        form.begins = depth ? [...form.begins.slice(0, 2), 0] : form.begins.slice(0, 2)
    },
  )

  /** What carries controls, or is there to carry them. */
  const carries = (id: Id): boolean =>
    !doc.copied.has(id) && (doc.items.get(id)?.kind === 'null' || (doc.items.get(id)?.controls?.length ?? 0) > 0)
  const ownerOfNew = (): Id => selection.control?.item ?? selection.ids.find(carries) ?? doc.order.find(carries) ?? newNull

  /** The properties that are selected, which the new control can drive at once. */
  const driven = computed(() => (selection.control ? [] : selection.targets.filter((t) => t.item !== form.owner)))
  const drivenName = computed(() => {
    const [one] = driven.value
    return one ? doc.nameOf(one) + (driven.value.length > 1 ? ` and ${driven.value.length - 1} more` : '') : ''
  })

  const describe = (c: Control): Partial<Form> => ({
    kind: c.kind,
    name: c.name,
    unit: c.unit ?? '',
    from: c.softMin ?? 0,
    to: c.softMax ?? 0,
    min: c.min ?? null,
    max: c.max ?? null,
    step: c.step ?? null,
    begins: c.default,
    whole: c.whole ?? false,
    depth: c.depth ?? false,
    note: c.note ?? '',
    entries: c.options ?? [],
  })

  function close(): void {
    workspace.addingControl = false
    workspace.editingControl = null
  }

  /** What the form says, as far as it differs from before where several controls are edited. */
  function described(all: boolean): Partial<Control> {
    const changed = (key: keyof Form): boolean => all || JSON.stringify(form[key]) !== JSON.stringify(was[key])
    const out: Partial<Control> = {}
    if (changed('note')) out.note = form.note
    if (widget(form.kind) === 'fader' && changed('unit')) out.unit = form.unit
    if (form.kind === 'fader' && changed('whole')) out.whole = form.whole
    if (ranged.value && (changed('from') || changed('to'))) Object.assign(out, { softMin: form.from, softMax: form.to })
    if (ranged.value && changed('min')) out.min = form.min ?? undefined
    if (ranged.value && changed('max')) out.max = form.max ?? undefined
    if (ranged.value && changed('step')) out.step = form.step ?? 0
    if (changed('begins')) out.default = form.begins
    if (form.kind === posesKind) out.poses = form.stops.map((name) => ({ id: '', name: name.trim() || 'Stop', easing: 'smooth' as const }))
    if (form.kind === 'choice' && changed('entries')) out.options = entered()
    return out
  }
  const entered = (): string[] => form.entries.map((e) => e.trim()).filter(Boolean)

  async function save(): Promise<boolean> {
    const many = edited.value.length > 1
    const what = described(!many)
    const ops = edited.value.map(({ item, control }) => ({
      op: 'control.set' as const,
      item,
      value: { ...control, ...what, ...(many ? {} : { name: form.name.trim() || control.name }), depth: control.depth },
    }))
    // Depth is another type of value, so it goes by a gesture of its own, and takes the default along.
    for (const { item, control } of edited.value)
      if (form.kind === 'point' && form.depth !== was.depth && control.kind === 'point')
        if (!(await doc.gesture('set depth', { item, control: control.id, depth: form.depth }))) return false
    if (form.depth !== was.depth) for (const op of ops) op.value.depth = form.depth
    // The options of a choice with poses are its stops, which keep what they hold.
    const left = []
    for (const op of ops) {
      if (!op.value.poses?.length || !what.options || String(form.entries) === String(was.entries)) left.push(op)
      else {
        if (!(await doc.gesture('set options', { item: op.item, control: op.value.id, options: what.options }))) return false
        const now = doc.items.get(op.item)?.controls?.find((c) => c.id === op.value.id)
        const value = {
          ...op.value,
          options: now?.options,
          poses: now?.poses,
          default: form.begins === was.begins ? (now?.default ?? null) : form.begins,
        }
        if (JSON.stringify({ ...now, ...value }) !== JSON.stringify(now)) left.push({ ...op, value })
      }
    }
    return !left.length || (await doc.operations(...left)) !== undefined
  }

  async function add(): Promise<boolean> {
    const control = {
      ...described(true),
      kind: widget(form.kind),
      name: form.name.trim(),
      ...(form.kind === 'point' ? { depth: form.depth } : {}),
    }
    const drives = form.drives ? driven.value : []
    const onNew = form.owner === newNull
    const done = await doc.gesture('add control', { item: onNew ? '' : form.owner, owner: form.ownerName.trim(), control, drives })
    const id = done?.made?.[0]
    const owner = onNew ? doc.order.find((item) => doc.items.get(item)?.controls?.some((c) => c.id === id)) : form.owner
    if (!id || !owner) return false
    if (drives[0]) wiring.editing = `${drives[0].item}/${drives[0].property}`
    selection.pickControl({ item: owner, property: id })
    if (form.kind === posesKind) workspace.posesOf = { item: owner, control: id }
    return true
  }

  async function finish(): Promise<void> {
    if (ranged.value && form.from >= form.to) wrong.value = 'The end of the range must be greater than its start.'
    else if (form.min !== null && form.max !== null && form.min > form.max) wrong.value = 'The upper limit must not be below the lower one.'
    else if (await (first.value ? save() : add())) close()
  }

  return { form, wrong, shown, first, edited, alike, kindNames, ranged, owners, driven: drivenName, close, finish }
}
