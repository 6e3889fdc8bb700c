import { computed } from 'vue'
import { useParts } from '@/composables/parts'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'

/** The sets of controls of the project: kept, put onto items, taken to other projects as files. */
export function useControlSets() {
  const doc = useDocument()
  const parts = useParts()
  const keep = (item: Id): Promise<unknown> => doc.gesture('keep set', { item })
  const put = (set: Id, ...items: Id[]): Promise<unknown> => doc.gesture('put set', { set, items })
  const remove = (set: Id): Promise<unknown> => doc.gesture('operations', { ops: [{ op: 'set.remove', set }] })
  /** Lets a file be chosen, keeps the set in it, and puts it onto an item. */
  async function open(item: Id): Promise<void> {
    const before = new Set(doc.sets.map((s) => s.id))
    const made = await parts.choose()
    const set = made.find((id) => !before.has(id) && doc.sets.some((s) => s.id === id))
    if (set) await put(set, item)
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
    else if (key === 'open set') void open(item)
    else if (what === 'put' && set) void put(set.id, item)
    else if (what === 'save' && set) void parts.save('set', set.id, set.name)
    else if (what === 'drop' && set) void remove(set.id)
    else return false
    return true
  }
  return { entries, run, put, keep }
}
