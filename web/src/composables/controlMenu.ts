import { computed } from 'vue'
import type { Control, Id, Ref, Spec, Tail } from '@/core/types'
import { useBox } from '@/stores/box'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'
import { labels } from '@/theme'
import { layAt } from './laying'
import { usePosing } from './posing'
import { walk } from './walk'

/** How a control goes on behind its last pin. */
const tails: [Tail, string][] = [
  ['', 'Hold'],
  ['repeat', 'Repeat'],
  ['mirror', 'There and back'],
  ['onward', 'Repeat, going on from there'],
]

/** The menu of a control on the Desk, and what its entries do; rename and edit of a heading happen in its row. */
export function useControlMenu(props: { item: Id; spec: Spec }, row: { rename: () => void; editHeading: () => void }) {
  const doc = useDocument()
  const workspace = useWorkspace()
  const box = useBox()
  const posing = usePosing()

  const ref0 = computed<Ref>(() => ({ item: props.item, property: props.spec.key }))
  const self = computed(() => ({ item: props.item, control: props.spec.key }))
  const control = computed(() => doc.items.get(props.item)?.controls?.find((c) => c.id === props.spec.key))
  const state = computed(() => doc.state(props.item, props.spec.key))
  const place = computed(() => (doc.items.get(props.item)?.controls ?? []).findIndex((c) => c.id === props.spec.key))

  const others = (prefix: string) =>
    doc.nullNames.filter(({ id, copied }) => !copied && id !== props.item).map(({ id, name }) => ({ key: prefix + id, label: name }))
  /** What there is to do with the stops of the control. */
  const poses = computed(() => {
    const c = control.value
    if (!c || !['fader', 'choice', 'switch'].includes(c.kind)) return []
    if (!c.poses?.length) return [{ key: 'poses', label: 'Give it poses' }]
    const turn = { fader: 'Turn into a choice', choice: 'Turn into a fader' }[c.kind as string]
    return [
      { key: 'pose', label: 'Pose', children: c.poses.map((s) => ({ key: 'pose:' + s.id, label: s.name })) },
      ...(c.kind === 'switch' ? [] : [{ key: 'stop', label: 'Add stop here' }]),
      { key: 'moves', label: 'Edit poses…' },
      ...(turn ? [{ key: 'turn', label: turn }] : []),
    ]
  })
  /** How it goes on behind its last pin; null where it has none. */
  const beyond = computed(() => (state.value.pins?.length ? (state.value.beyond ?? '') : null))
  const menu = computed(() => [
    { key: 'edit', label: 'Settings…' },
    { key: 'rename', label: 'Rename' },
    { key: 'head', label: control.value?.heading ? 'Remove heading' : 'Add heading above' },
    ...poses.value,
    { key: 'reach', label: 'What does it drive?' },
    { key: 'drives', label: 'Its links in the Ledger' },
    { key: 'lay', label: control.value?.laid ? 'Hide from viewport' : 'Show in viewport' },
    { key: 'into', label: 'Move to', children: others('into:') },
    { key: 'copy', label: 'Copy to', children: others('bare:') },
    { key: 'wired', label: 'Copy with links to', children: others('wire:') },
    ...(beyond.value !== null
      ? [
          {
            key: 'beyond',
            label: 'After the last pin',
            children: tails.map(([key, label]) => ({ key: 'tail:' + key, label: label + (beyond.value === key ? ' ✓' : '') })),
          },
        ]
      : []),
    ...(box.boundTo(ref0.value).length ? [{ key: 'unbind', label: 'Unbind from the box' }] : []),
    { key: 'reset', label: 'Reset to default' },
    { key: 'accent', label: 'Colour mark', children: ['None', ...labels].map((label, i) => ({ key: 'accent' + i, label })) },
    { key: 'up', label: 'Move up' },
    { key: 'down', label: 'Move down' },
    { key: 'remove', label: 'Delete' },
  ])

  function move(at: number, onto = props.item): void {
    void doc.gesture('move control', { item: props.item, control: props.spec.key, onto, at })
  }
  const remove = (): void => void doc.gesture('remove controls', { controls: [ref0.value] })
  const set = (what: Partial<Control>) =>
    doc.operations({ op: 'control.set', item: props.item, value: { ...(control.value as Control), ...what } })
  async function head(heading: string | undefined): Promise<void> {
    await set({ heading })
    if (heading) row.editHeading()
  }

  function select(key: string): void {
    const copy = /^(bare|wire):(.*)/.exec(key)
    if (key.startsWith('pose:')) void posing.begin({ ...self.value, stop: key.slice(5) })
    else if (key.startsWith('into:')) move(-1, key.slice(5))
    else if (copy) void doc.gesture('copy control', { item: props.item, control: props.spec.key, onto: copy[2], wired: copy[1] === 'wire' })
    else if (key.startsWith('tail:')) void doc.operations({ op: 'pins.beyond', ...ref0.value, beyond: key.slice(5) as Tail })
    else if (/^accent\d/.test(key)) void set({ accent: Number(key.slice(6)) })
    else acts[key]?.()
  }

  const acts: Record<string, () => void> = {
    edit: () => (workspace.editingControl = `${props.item}/${props.spec.key}`),
    rename: row.rename,
    unbind: () => box.unbind(ref0.value),
    reset: () => void doc.gesture('set', { targets: [ref0.value], value: props.spec.default }),
    reach: () => void walk('reach', `What does ${props.spec.name} drive?`, ref0.value),
    lay: () => void set({ laid: control.value?.laid ? undefined : layAt(doc.composition) }),
    drives: () => {
      workspace.sought = `${doc.items.get(props.item)?.name}: ${props.spec.name}`
      workspace.tab = 'ledger'
    },
    poses: async () => {
      if (await doc.gesture('give poses', self.value)) workspace.posesOf = self.value
    },
    stop: () => void doc.gesture('add stop', self.value),
    moves: () => (workspace.posesOf = self.value),
    turn: () => void doc.gesture('turn poses', { ...self.value, kind: control.value?.kind === 'fader' ? 'choice' : 'fader' }),
    head: () => void head(control.value?.heading ? undefined : 'Heading'),
    up: () => move(Math.max(0, place.value - 1)),
    down: () => move(place.value + 1),
    remove,
  }

  return { control, place, menu, select, set }
}
