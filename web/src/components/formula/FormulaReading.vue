<script setup lang="ts">
import { computed } from 'vue'
import type { FormulaView } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'

/** What a formula says in words, and its result over the composition. */
const props = defineProps<{ answer: FormulaView; tall?: boolean }>()
const doc = useDocument()
const playback = usePlayback()

const width = 252
const height = computed(() => (props.tall ? 120 : 32))
const range = computed(() => {
  const numbers = (props.answer.curve ?? []).filter((x): x is number => x !== null)
  return numbers.length < 2 ? null : { lo: Math.min(...numbers), hi: Math.max(...numbers) }
})
const curve = computed(() => {
  const list = props.answer.curve ?? []
  if (!range.value) return ''
  const { lo, hi } = range.value
  const y = (x: number): number => (hi > lo ? height.value - 2 - ((x - lo) / (hi - lo)) * (height.value - 4) : height.value / 2)
  return list
    .map((x, k) =>
      x === null ? '' : `${k && list[k - 1] !== null ? 'L' : 'M'}${((k / (list.length - 1)) * width).toFixed(1)} ${y(x).toFixed(1)}`,
    )
    .join('')
})
const now = computed(() => (playback.frame / Math.max(1, (doc.composition?.frames ?? 2) - 1)) * width)
const tidy = (x: number): string => String(Math.round(x * 100) / 100)
</script>

<template>
  <div class="reading">
    <svg
      v-if="curve && range"
      class="curve"
      :viewBox="`0 0 ${width} ${height}`"
      preserveAspectRatio="none"
      :style="{ height: height + 'px' }"
      role="img"
      :aria-label="`The result over the composition, from ${tidy(range.lo)} to ${tidy(range.hi)}`"
    >
      <path :d="curve" />
      <line :x1="now" :x2="now" y1="0" :y2="height" />
    </svg>
    <p v-if="tall && range" class="ends figures">
      <span>lowest {{ tidy(range.lo) }}</span
      ><span>highest {{ tidy(range.hi) }}</span>
    </p>
    <p v-if="answer.words" class="words" :class="{ tall }">{{ answer.words }}</p>
  </div>
</template>

<style scoped>
.words::first-letter {
  text-transform: uppercase;
}
.words {
  margin: 3px 0 0;
  font-size: 12px;
  color: var(--ink2);
  font-style: italic;
  max-height: 66px;
  overflow: auto;
}
.words.tall {
  max-height: none;
}
.curve {
  display: block;
  width: 100%;
  margin-top: 4px;
  border-top: 1px solid var(--line);
}
.curve path {
  fill: none;
  stroke: var(--verdigris);
  stroke-width: 1.2;
  vector-effect: non-scaling-stroke;
}
.curve line {
  stroke: var(--brass);
  vector-effect: non-scaling-stroke;
}
.ends {
  display: flex;
  justify-content: space-between;
  margin: 0;
  font-size: 11px;
  color: var(--ink2);
}
</style>
