<script setup lang="ts">
import { computed } from 'vue'
import StopsEditor from '@/components/links/StopsEditor.vue'
import { core } from '@/core/client'
import type { Slip, SlipOutput, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'

/** The stops of a map slip, as those of a map link are edited. */
const props = defineProps<{ slip: Slip; coming?: SlipOutput }>()
const graphs = useGraphs()
const doc = useDocument()

const stops = computed(() => props.slip.stops ?? [])
const input = computed(() => (typeof props.coming?.value === 'number' ? props.coming.value : 0))
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
