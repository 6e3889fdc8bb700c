<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import StopsEditor from '@/components/links/StopsEditor.vue'
import { core } from '@/core/client'
import type { Id, Slip, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'

/** The stops of a map slip, as those of a map link are edited. */
const props = defineProps<{ slip: Slip; from?: { slip: Id; out: string } }>()
const graphs = useGraphs()
const doc = useDocument()

const stops = computed(() => props.slip.stops ?? [])
/** What comes to it now. */
const input = ref(0)
watch(
  () => [props.from?.slip, props.from?.out, graphs.given],
  (_now, _was, done) => {
    const { from } = props
    const read = (): void => {
      const value = from && graphs.output(from.slip, from.out).value
      input.value = typeof value === 'number' ? value : 0
    }
    read()
    if (from) done(graphs.hear(from.slip, read))
  },
  { immediate: true },
)
const type = computed(() => {
  const out: Value = stops.value[0]?.out ?? 0
  if (typeof out === 'string') return 'text'
  return Array.isArray(out) ? (out.length === 4 ? 'colour' : 'point') : 'number'
})
const mark = (which: string): void => void doc.gesture('mark slip', { graph: graphs.graph?.id ?? '', slip: props.slip.id, which })
const response = async (from: number, to: number, steps: number): Promise<number[]> =>
  (await core.ask('slip response', { graph: graphs.graph?.id ?? '', slip: props.slip.id, from, to, steps })).result ?? []
</script>

<template>
  <div class="nodrag nowheel">
    <StopsEditor
      :stops="stops"
      :beyond="slip.beyond ?? ''"
      :type="type"
      :input="input"
      :response="response"
      @preview="(what) => graphs.editing(slip, what)"
      @change="(what) => graphs.edit(slip, what)"
      @mark="mark"
    />
  </div>
</template>

<style scoped>
/* As close as the rows of a slip: what stands on a sheet keeps its size. */
:deep(.line) {
  min-height: 22px;
}
:deep(.mark) {
  min-height: 0;
}
</style>
