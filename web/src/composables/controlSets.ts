import { computed } from 'vue'
import { download } from '@/composables/download'
import { tell } from '@/composables/notify'
import type { ControlSet, Id } from '@/core/types'
import { useDocument } from '@/stores/document'

/** What the file of a set of controls begins with. */
const mark = 'set of controls'

/** The sets of controls of the project: kept, put onto items, taken to other projects as files. */
export function useControlSets() {
  const doc = useDocument()
  const keep = (item: Id): Promise<unknown> => doc.gesture('keep set', { item })
  const put = (set: Id, ...items: Id[]): Promise<unknown> => doc.gesture('put set', { set, items })
  const remove = (set: Id): Promise<unknown> => doc.gesture('operations', { ops: [{ op: 'set.remove', set }] })
  function save(set: ControlSet): void {
    const { name, controls } = set
    const text = JSON.stringify({ wunderkammer: mark, name, controls }, null, 2)
    download(`${name}.controls.json`, text, 'application/json')
  }
  /** Lets a file be chosen, keeps the set in it, and puts it onto an item. */
  function open(item: Id): void {
    const chooser = document.createElement('input')
    chooser.type = 'file'
    chooser.accept = '.json,application/json'
    chooser.onchange = async () => {
      const file = chooser.files?.[0]
      if (!file) return
      try {
        const read = JSON.parse(await file.text()) as Partial<ControlSet> & { wunderkammer?: string }
        if (read.wunderkammer !== mark || !Array.isArray(read.controls)) throw new Error('not one')
        const made = await doc.gesture('bring set', { value: { id: 'brought', name: read.name ?? file.name, controls: read.controls } })
        if (made?.made?.[0]) await put(made.made[0], item)
      } catch {
        tell(new Error(`${file.name} holds no set of controls. Save one from the menu of a drawer.`))
      }
    }
    chooser.click()
  }
  /** The part of a drawer's menu that is about sets. */
  const entries = computed(() => [
    { key: 'keep set', label: 'Keep its controls as a set' },
    {
      key: 'sets',
      label: 'Add the controls of a set',
      children: [
        ...doc.sets.map((s) => ({ key: `put ${s.id}`, label: `${s.name} (${s.controls.length})` })),
        ...(doc.sets.length ? [{ type: 'divider', key: 'd1' }] : []),
        { key: 'open set', label: 'From a file…' },
      ],
    },
    ...(doc.sets.length
      ? [
          {
            key: 'more sets',
            label: 'Sets of this project',
            children: doc.sets.map((s) => ({
              key: `set ${s.id}`,
              label: s.name,
              children: [
                { key: `save ${s.id}`, label: 'Save as a file' },
                { key: `drop ${s.id}`, label: 'Delete' },
              ],
            })),
          },
        ]
      : []),
  ])
  /** Does what an entry says; false where it is about something else. */
  function run(key: string, item: Id): boolean {
    const [what = '', id = ''] = key.split(' ')
    const set = doc.sets.find((s) => s.id === id)
    if (key === 'keep set') void keep(item)
    else if (key === 'open set') open(item)
    else if (what === 'put' && set) void put(set.id, item)
    else if (what === 'save' && set) save(set)
    else if (what === 'drop' && set) void remove(set.id)
    else return false
    return true
  }
  return { entries, run, put, keep }
}
