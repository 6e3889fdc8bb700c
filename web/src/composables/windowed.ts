import { useVirtualList, type UseVirtualListReturn } from '@vueuse/core'
import { watch, type Ref } from 'vue'

/**
 * The rows of a list that are in sight, each of one height. A shorter list takes the place of a longer one from its own end at most: the
 * library stays where the longer one was scrolled to, and shows nothing there.
 */
export function useWindowed<T>(rows: Ref<T[]>, options: { itemHeight: number; overscan: number }): UseVirtualListReturn<T> {
  const box = (): HTMLElement | null => made.containerProps.ref.value
  watch(rows, ({ length }) => {
    const at = box()
    if (at) at.scrollTop = Math.min(at.scrollTop, Math.max(0, length * options.itemHeight - at.clientHeight))
  })
  const made = useVirtualList(rows, options) // after that, so that it hears of a change later
  return made
}
