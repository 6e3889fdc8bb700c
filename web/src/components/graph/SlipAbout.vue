<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { coalesced } from '@/composables/coalesced'
import { core } from '@/core/client'
import type { AboutSlip } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { usePlayback } from '@/stores/playback'

/** What the slip that is picked gives: over the composition, as a formula, and read out. */
const graphs = useGraphs()
const doc = useDocument()
const playback = usePlayback()
const about = shallowRef<AboutSlip | null>(null)
const id = computed(() => (graphs.picked.length === 1 ? graphs.picked[0] : undefined))
const steps = 120

const ask = coalesced(async () => {
  const { graph, member } = graphs
  about.value =
    graph && id.value ? ((await core.ask('about slip', { graph: graph.id, member, slip: id.value, steps })).result ?? null) : null
})
watch([id, () => doc.rested, () => graphs.member], () => void ask(), { immediate: true })

const title = computed(() => graphs.slips.get(id.value ?? '')?.title || graphs.given.get(id.value ?? '')?.called || '')
const range = computed(() => {
  const list = about.value?.curve ?? []
  const [lo, hi] = [Math.min(...list), Math.max(...list)]
  return hi - lo > 1e-9 ? [lo, hi] : [lo - 1, hi + 1]
})
const width = 270
const height = 64
const path = computed(() => {
  const list = about.value?.curve ?? []
  const [lo = 0, hi = 1] = range.value
  return list.length
    ? 'M' +
        list
          .map(
            (y, k) => `${((k / (list.length - 1)) * width).toFixed(1)} ${(height - 4 - ((y - lo) / (hi - lo)) * (height - 8)).toFixed(1)}`,
          )
          .join('L')
    : ''
})
const now = computed(() => (playback.frame / Math.max(1, (doc.composition?.frames ?? 2) - 1)) * width)
</script>

<template>
  <section v-if="id && about && (about.formula || about.help)" class="about" aria-label="About the slip">
    <h3>{{ title }}</h3>
    <p v-if="about.help" class="fine">{{ about.help }}</p>
    <svg v-if="path" :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="`What ${title} gives over the composition`">
      <rect class="ground" :width="width" :height="height" rx="3" />
      <path class="now" :d="`M${now} 0V${height}`" />
      <path class="curve" :d="path" />
    </svg>
    <pre v-if="about.formula" class="figures">{{ about.formula }}</pre>
    <p v-if="about.words" class="fine">{{ about.words }}</p>
  </section>
</template>

<style scoped>
.about {
  padding: 8px 12px 10px;
  border-bottom: 1px solid var(--line);
  background: var(--picked);
}
h3 {
  margin: 0 0 4px;
  font: 600 13px var(--face-heading);
}
.fine {
  margin: 2px 0 4px;
  color: var(--ink2);
  font-size: 12px;
}
svg {
  display: block;
  width: 100%;
}
.ground {
  fill: var(--card);
  stroke: var(--line);
}
.curve {
  fill: none;
  stroke: var(--verdigris);
  stroke-width: 1.6;
}
.now {
  stroke: var(--oxblood);
  opacity: 0.6;
}
pre {
  margin: 6px 0 0;
  max-height: 110px;
  overflow: auto;
  font-size: 11px;
  white-space: pre-wrap;
}
</style>
