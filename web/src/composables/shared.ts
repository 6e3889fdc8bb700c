import { computed, type ComputedRef } from 'vue'
import type { Id, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'

/** The numbers of a property of several items: those of the first, and whether others have others. */
export function useShared(
  items: () => readonly Id[],
  spec: () => Spec,
): { numbers: ComputedRef<number[]>; mixed: (component: number) => boolean } {
  const doc = useDocument()
  const slots = computed(() => {
    void doc.layout
    return Int32Array.from(items(), (id) => doc.slotOf(id, spec()))
  })
  interface Shown {
    numbers: number[]
    mixed: boolean[]
  }
  // Held as it was while nothing of it changes, so that a new frame draws only those rows anew that move.
  const shown = computed<Shown>((was) => {
    const [first] = items()
    const numbers = first === undefined ? [] : doc.numbers(first, spec())
    const values = doc.values
    const mixed = numbers.map((x, k) => slots.value.some((slot) => slot >= 0 && values[slot + k] !== x))
    const same =
      was?.numbers.length === numbers.length && numbers.every((x, k) => Object.is(x, was.numbers[k]) && mixed[k] === was.mixed[k])
    return same ? was : { numbers, mixed }
  })
  return { numbers: computed(() => shown.value.numbers), mixed: (k) => shown.value.mixed[k] ?? false }
}
