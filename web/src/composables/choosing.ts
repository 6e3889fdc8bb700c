import { nextTick, ref, watch, type Ref } from 'vue'

/** A list under a field: arrows go along it, Enter takes what they stand on. It begins anew when something else is typed. */
export function useChoosing<T>(
  typed: Ref<string>,
  found: () => T[],
  list: () => HTMLElement | null,
  choose: (one: T | undefined, by: KeyboardEvent) => unknown,
): { at: Ref<number>; keys: (event: KeyboardEvent) => Promise<void> } {
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
  return { at, keys }
}
