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
  const asked = new Map<Id, unknown>() // the item as it was asked for
  let stretch = ''

  watch(
    [() => items().map((id) => doc.items.get(id)), () => timeline.from, () => timeline.frames, steps],
    async ([list]) => {
      const now = `${timeline.from} ${timeline.frames} ${steps.value}`
      if (now !== stretch) asked.clear()
      stretch = now
      for (const item of list) {
        if (!item || asked.get(item.id) === item) continue
        asked.set(item.id, item)
        const ask = { item: item.id, from: timeline.from, to: timeline.from + timeline.frames, steps: steps.value }
        samples.set(item.id, (await core.ask('samples', ask)).result ?? {})
      }
    },
    { immediate: true },
  )
  return { samples, steps }
}
