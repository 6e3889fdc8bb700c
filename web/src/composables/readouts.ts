import { useThrottleFn } from '@vueuse/core'
import { shallowReactive } from 'vue'
import { coalesced } from '@/composables/coalesced'
import { core } from '@/core/client'
import type { Id } from '@/core/types'

/** What is asked of properties without slots, by "item/key"; kept up to date while it is watched. */
export function useReadouts() {
  const values = shallowReactive(new Map<string, number[]>())
  const watched = new Map<symbol, { item: Id; keys: string[] }>()

  const read = coalesced(async () => {
    for (const { item, keys } of [...watched.values()]) {
      const answer = await core.ask('read', { item, keys })
      for (const [key, v] of Object.entries(answer.result ?? {})) if (v !== null) values.set(item + '/' + key, [v].flat() as number[])
    }
  })
  const soon = useThrottleFn(read, 100, true)

  /** Keeps properties of an item up to date; returns the way to stop it. */
  function watch(item: Id, keys: string[]): () => void {
    const mark = Symbol(item)
    watched.set(mark, { item, keys })
    void read()
    return () => watched.delete(mark)
  }

  /** Says that another frame is shown: what is watched is asked for anew, a few times a second at most. */
  function refresh(): void {
    if (watched.size) void soon()
  }

  return { values, watch, refresh }
}
