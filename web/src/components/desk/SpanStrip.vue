<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { short } from '@/composables/format'
import { useSpanShape } from '@/composables/spanShape'
import type { Id, Pin } from '@/core/types'
import { useTimeline } from '@/stores/timeline'
import ValueField from '@/components/shared/ValueField.vue'

/** The way from a pin to the next one, opened under its track: its handles to be dragged, its numbers to be typed. */
const props = defineProps<{ item: Id; property: string; pin: Pin; next: Pin }>()
const timeline = useTimeline()

const height = 112
const edge = 14
const { held, shown, numbers, cubic, grab, key, set } = useSpanShape(props)

/** What of the rise is in sight; it stays as it was while a handle is dragged. */
const sight = ref<[low: number, high: number]>([0, 1])
watch([shown, held], () => {
  if (held.value || !shown.value) return
  const at = cubic.value ?? []
  sight.value = [Math.min(-shown.value.under, at[1] ?? 0, at[3] ?? 0), Math.max(1 + shown.value.over, at[1] ?? 1, at[3] ?? 1)]
})
const falls = computed(() => Number(props.next.value) < Number(props.pin.value))
const x = (u: number): number => timeline.x(props.pin.frame + u * (props.next.frame - props.pin.frame))
function y(v: number): number {
  const [low, high] = sight.value
  const share = (v - low) / (high - low)
  return edge + (height - 2 * edge) * (falls.value ? share : 1 - share)
}
const path = computed(() =>
  (shown.value?.drawn ?? []).map((v, k, all) => `${k ? 'L' : 'M'}${x(k / (all.length - 1)).toFixed(1)} ${y(v).toFixed(1)}`).join(''),
)
const beyond = computed(() => {
  const over = Math.max(shown.value?.over ?? 0, shown.value?.under ?? 0)
  return over > 0.0005 ? `overshoots by ${short(Math.round(over * 1000) / 10)} %` : ''
})
</script>

<template>
  <div class="numbers" role="group" :aria-label="`Shape from frame ${pin.frame} to ${next.frame}`">
    <span class="quiet">from {{ pin.frame }} to {{ next.frame }}</span>
    <label v-for="(n, k) in numbers" :key="n.name" class="quiet"
      >{{ n.name }}
      <ValueField
        :value="n.value"
        :label="n.name"
        :min="n.from"
        :max="n.to"
        :step="n.whole || n.to > 50 ? 1 : 0.01"
        @commit="(v) => set(k, v)"
    /></label>
    <span v-if="!numbers.length" class="quiet">{{
      shown?.word === 'hold' ? 'Choose an easing above.' : 'Drag a handle to shape it.'
    }}</span>
    <span v-if="beyond" class="beyond">{{ beyond }}</span>
  </div>
  <div class="strip">
    <svg aria-hidden="true">
      <path class="curve" :d="path" />
      <template v-if="cubic">
        <path class="arm" :d="`M${x(0)} ${y(0)}L${x(cubic[0] ?? 0)} ${y(cubic[1] ?? 0)}`" />
        <path class="arm" :d="`M${x(1)} ${y(1)}L${x(cubic[2] ?? 0)} ${y(cubic[3] ?? 0)}`" />
      </template>
    </svg>
    <button
      v-for="k in cubic ? ([0, 2] as const) : []"
      :key="k"
      class="plain knob"
      :aria-label="`${k ? 'Arriving' : 'Leaving'} handle: ${cubic?.[k]}, ${cubic?.[k + 1]}`"
      :style="{ transform: `translate(${x(cubic?.[k] ?? 0) - 12}px, ${y(cubic?.[k + 1] ?? 0) - 12}px)` }"
      @pointerdown.stop="grab($event, k, x(1) - x(0), y(1) - y(0))"
      @keydown="key($event, k, falls)"
    >
      <i />
    </button>
  </div>
</template>

<style scoped>
.numbers {
  grid-column: 1;
  display: flex;
  flex-wrap: wrap;
  align-content: center;
  gap: 4px 12px;
  padding: 6px 12px;
  font-size: 12px;
  background: var(--sunk);
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.numbers label {
  display: flex;
  align-items: center;
  gap: 4px;
}
.beyond {
  color: var(--ink2);
}
.strip {
  grid-column: 2;
  position: relative;
  height: 112px;
  overflow: hidden;
  background: var(--sunk);
  border-bottom: 1px solid var(--line);
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
path {
  fill: none;
}
.curve {
  stroke: var(--brass);
  stroke-width: 1.8;
}
.arm {
  stroke: var(--verdigris);
  stroke-width: 1.2;
}
.knob {
  position: absolute;
  left: 0;
  top: 0;
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  touch-action: none;
  cursor: move;
}
.knob i {
  width: 10px;
  height: 10px;
  border-radius: 50%;
  border: 2px solid var(--verdigris);
  background: var(--card);
}
</style>
