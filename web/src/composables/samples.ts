import { computed, shallowReactive, watch } from 'vue'
import { core } from '@/core/client'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useTimeline } from '@/stores/timeline'

/** Own values at evenly spaced frames, component after component, by property. */
export type Samples = Record<string, number[] | null>

/** What is drawn of tracks, by item. */
export type AllSamples = ReadonlyMap<Id, Samples>

/** The own values over the stretch in sight of what has pins, by item: asked of the core when one of the items or the stretch changes. */
export function useSamples(items: () => Id[]): AllSamples {
  const doc = useDocument()
  const timeline = useTimeline()
  const samples = shallowReactive(new Map<Id, Samples>())
  /** One sample for every third pixel. */
  const steps = computed(() => Math.max(2, Math.round(timeline.width / 3)))
  const known = new Map<Id, number>() // what was set of the item when it was asked for
  const wanted = new Set<Id>()
  let asking = false
  let stretch = ''

  /** Asks for those that are wanted, once at a time: where more are wanted meanwhile, again. */
  async function ask(): Promise<void> {
    if (asking) return
    asking = true
    try {
      while (wanted.size) {
        const now = [...wanted]
        wanted.clear()
        const { result } = await core.ask('samples', {
          items: now,
          from: timeline.from,
          to: timeline.from + timeline.frames,
          steps: steps.value,
        })
        for (const id of now) samples.set(id, result?.[id] ?? {})
      }
    } finally {
      asking = false
    }
  }

  watch(
    [() => items().map((id) => [id, doc.stampOf(id)] as const), () => timeline.from, () => timeline.frames, steps],
    ([list]) => {
      const now = `${timeline.from} ${timeline.frames} ${steps.value}`
      for (const [id, stamp] of list) {
        if (now === stretch && known.get(id) === stamp) continue
        known.set(id, stamp)
        wanted.add(id)
      }
      stretch = now
      void ask()
    },
    { immediate: true },
  )
  return samples
}
