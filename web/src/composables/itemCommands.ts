import { h } from 'vue'
import type { DropdownOption } from 'naive-ui'
import { core } from '@/core/client'
import type { Clip, GestureName, Gestures, Id, Operation } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import { labels } from '@/theme'
import { message } from './notify'
import { stepFrom, stepped } from './steps'

/** What items were copied as; other windows of the browser find it too. */
const clipKey = 'wunderkammer:clip'
/** The same, where the browser has no room for it. */
let here: string | null = null

/** What can be done with the items that are selected, from keys and menus alike. */
export function useItemCommands() {
  const doc = useDocument()
  const selection = useSelection()
  const workspace = useWorkspace()

  function set(ids: Id[], what: Omit<Extract<Operation, { op: 'item.set' }>, 'op' | 'composition' | 'item'>): void {
    if (ids.length) void doc.operations(...ids.map((item) => ({ op: 'item.set' as const, item, ...what })))
  }

  /** Makes a gesture and selects what came of it. */
  async function make<G extends GestureName>(gesture: G, using: Gestures[G]): Promise<void> {
    const done = await doc.gesture(gesture, using)
    if (done?.made?.length) selection.pickAll(done.made.filter((id) => !done.made?.includes(doc.items.get(id)?.parent ?? '')))
  }

  async function duplicate(): Promise<void> {
    if (!selection.ids.length) return
    const by = stepFrom(selection.ids)
    await make('duplicate', { items: selection.ids, by })
    stepped(selection.ids, by)
  }
  const more = (): Promise<void> | undefined => (selection.ids.length ? make('more', { items: selection.ids }) : undefined)
  const group = (): Promise<void> | undefined => (selection.ids.length ? make('group', { items: selection.ids }) : undefined)

  async function copy(): Promise<void> {
    if (!selection.ids.length) return
    const clip = await core.ask('take', selection.ids)
    if (!clip.result) return
    here = JSON.stringify(clip.result)
    let note = selection.ids.length === 1 ? 'One item copied.' : `${selection.ids.length} items copied.`
    try {
      localStorage.setItem(clipKey, here)
    } catch {
      localStorage.removeItem(clipKey)
      note += ' They are too many to be pasted in another window.'
    }
    message.info(note, { duration: 1500 })
  }

  /** Pastes what was copied last. What it looks at outside, and cannot be found by its name, is asked for first. */
  async function paste(): Promise<void> {
    const text = localStorage.getItem(clipKey) ?? here
    if (!text) return void message.info('Nothing to paste. Copy some items first.')
    const clip = JSON.parse(text) as Clip
    const asks = (await core.ask('paste asks', clip)).result ?? []
    if (asks.length) workspace.pasting = { clip, asks }
    else await make('paste', { clip })
  }

  function remove(): void {
    if (selection.ids.length) void doc.gesture('remove', { items: selection.ids })
  }

  const all = (of: (id: Id) => boolean): boolean => selection.ids.length > 0 && selection.ids.every(of)

  function menu(): DropdownOption[] {
    const out = all((id) => doc.items.get(id)?.notInOutput === true)
    return [
      { key: 'duplicate', label: 'Duplicate with links (Ctrl D)' },
      { key: 'more', label: 'Add another, wired the same (Shift D)' },
      { key: 'copy', label: 'Copy (Ctrl C)' },
      { key: 'paste', label: 'Paste (Ctrl V)' },
      { key: 'group', label: 'Group (Ctrl G)' },
      { key: 'copies', label: 'Make copies' },
      { key: 'retime', label: 'Give it a time of its own' },
      {
        key: 'break up',
        label: 'Break up into items',
        disabled: selection.items.length !== 1 || !['copies', 'piece'].includes(selection.items[0]?.kind ?? ''),
      },
      { key: 'detach', label: 'Detach', disabled: !selection.items.some((i) => i.parent) },
      { key: 'd1', type: 'divider' },
      { key: 'pivot', label: 'Centre pivot' },
      { key: 'recipe', label: 'Recipes…' },
      { key: 'letters', label: 'Split into letters', disabled: selection.items.length !== 1 || selection.items[0]?.kind !== 'text' },
      { key: 'output', label: out ? 'Include in output' : 'Exclude from output' },
      {
        key: 'label',
        label: 'Colour mark',
        children: [
          { key: 'label0', label: 'None' },
          ...labels.map((l, i) => ({
            key: `label${i + 1}`,
            label: () =>
              h('span', { style: { display: 'flex', gap: '8px', alignItems: 'center' } }, [
                h('i', { style: { width: '10px', height: '10px', borderRadius: '2px', background: `var(--label${i + 1})` } }),
                l,
              ]),
          })),
        ],
      },
      { key: 'd2', type: 'divider' },
      { key: 'remove', label: 'Delete (Del)' },
    ]
  }

  function run(key: string): void {
    const commands: Record<string, () => unknown> = {
      duplicate,
      more,
      copy,
      paste,
      group,
      'break up': () => selection.ids[0] && make('break up', { item: selection.ids[0] }),
      copies: () => selection.ids.length > 0 && make('group', { items: selection.ids, kind: 'copies' }),
      retime: () => selection.ids.length > 0 && make('retime', { items: selection.ids }),
      remove,
      detach: () => doc.gesture('attach', { items: selection.ids, parent: '' }),
      recipe: () => (workspace.recipe = ''),
      letters: () => make('letters', { item: selection.ids[0] }),
      pivot: () => doc.gesture('pivot', { items: selection.ids, middle: true }),
      output: () => set(selection.ids, { notInOutput: !all((id) => doc.items.get(id)?.notInOutput === true) }),
    }
    if (/^label\d$/.test(key)) set(selection.ids, { label: Number(key.slice(5)) })
    else void commands[key]?.()
  }

  return { set, make, duplicate, more, group, copy, paste, remove, menu, run }
}
