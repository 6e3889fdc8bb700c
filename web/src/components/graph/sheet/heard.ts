import { onBeforeUnmount, onMounted, watch } from 'vue'
import type { Id } from '@/core/types'
import { useGraphs } from '@/stores/graphs'

/** Has what a slip gives read at first, when the slip or what it is asked for becomes another, and whenever it gives other values. */
export function useHeard(slip: () => Id, asked: () => unknown, read: () => void): void {
  const graphs = useGraphs()
  let deaf: (() => void) | undefined
  function hear(): void {
    deaf?.()
    deaf = graphs.hear(slip(), read)
    read()
  }
  onMounted(hear)
  watch(() => [slip(), asked(), graphs.given], hear, { flush: 'post' })
  onBeforeUnmount(() => deaf?.())
}
