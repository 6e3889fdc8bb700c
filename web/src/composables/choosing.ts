import { computed, nextTick, ref, useId, watch, type ComputedRef, type Ref } from 'vue'

/** What makes elements a field with a list for those who don't see it. */
interface Parts {
  /** Of the field. */
  field: ComputedRef<Record<string, string | boolean | undefined>>
  /** Of the list, which is called by what it holds. */
  list: string
  /** Of an entry. */
  entry: (index: number) => Record<string, string | boolean>
}

/** A list under a field: arrows go along it, Enter takes what they stand on. It begins anew when something else is typed. */
export function useChoosing<T>(
  typed: Ref<string>,
  found: () => T[],
  list: () => HTMLElement | null,
  choose: (one: T | undefined, by: KeyboardEvent) => unknown,
): { at: Ref<number>; keys: (event: KeyboardEvent) => Promise<void>; parts: Parts } {
  const at = ref(0)
  watch(typed, () => (at.value = 0))

  async function keys(event: KeyboardEvent): Promise<void> {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (step) {
      event.preventDefault()
      at.value = Math.max(0, Math.min(found().length - 1, at.value + step))
      await nextTick()
      list()?.children[at.value]?.scrollIntoView({ block: 'nearest' })
    } else if (event.key === 'Enter') {
      event.preventDefault()
      await choose(found()[at.value], event)
    }
  }

  const id = useId()
  const field = computed(() => ({
    role: 'combobox',
    'aria-autocomplete': 'list',
    'aria-expanded': found().length > 0,
    'aria-controls': id,
    'aria-activedescendant': found().length ? `${id}-${at.value}` : undefined,
  }))
  const entry = (i: number): Record<string, string | boolean> => ({ id: `${id}-${i}`, role: 'option', 'aria-selected': i === at.value })
  return { at, keys, parts: { field, list: id, entry } }
}
