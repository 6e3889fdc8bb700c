import { computed, reactive, watch } from 'vue'
import { core } from '@/core/client'
import type { Id, Samples } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useTimeline } from '@/stores/timeline'

/** The own values over the stretch in sight of what has pins, by item: asked of the core when one of the items or the stretch changes. */
export function useSamples(items: () => Id[]) {
  const doc = useDocument()
  const timeline = useTimeline()
  const samples = reactive(new Map<Id, Samples>())
  /** One sample for every third pixel. */
  const steps = computed(() => Math.max(2, Math.round(timeline.width / 3)))
  const known = new Map<Id, number>() // what was set of the item when it was asked for
  const wanted = new Map<Id, number>() // how often it was
  const waiting = new Set<Id>() // for an answer
  let stretch = ''

  /** Asks for those of an item, once at a time: where it changed meanwhile, again. */
  async function ask(id: Id): Promise<void> {
    if (waiting.has(id)) return
    waiting.add(id)
    for (let at = 0; at !== wanted.get(id);) {
      at = wanted.get(id) ?? 0
      const { result } = await core.ask('samples', {
        item: id,
        from: timeline.from,
        to: timeline.from + timeline.frames,
        steps: steps.value,
      })
      samples.set(id, result ?? {})
    }
    waiting.delete(id)
  }

  watch(
    [() => items().map((id) => [id, doc.stampOf(id)] as const), () => timeline.from, () => timeline.frames, steps],
    ([list]) => {
      const now = `${timeline.from} ${timeline.frames} ${steps.value}`
      for (const [id, stamp] of list) {
        if (now === stretch && known.get(id) === stamp) continue
        known.set(id, stamp)
        wanted.set(id, (wanted.get(id) ?? 0) + 1)
        void ask(id)
      }
      stretch = now
    },
    { immediate: true },
  )
  return { samples, steps }
}
