<script setup lang="ts">
import { computed, onUnmounted, watch } from 'vue'
import { useSpanShape } from '@/composables/spanShape'
import type { Id, Pin } from '@/core/types'
import { useTimeline } from '@/stores/timeline'

/** The two handles of a span on its curve, whose ends stand at two heights. */
const props = defineProps<{ item: Id; property: string; pin: Pin; next: Pin; from: number; to: number }>()
/** How far the handles reach, in shares of the rise; none where there are none. */
const emit = defineEmits<{ reach: [shares: number[]] }>()
const timeline = useTimeline()
const { cubic, grab, key } = useSpanShape(props)
watch(cubic, (c) => emit('reach', c ? [c[1] ?? 0, c[3] ?? 0] : []), { immediate: true })
onUnmounted(() => emit('reach', []))

const long = computed(() => timeline.x(props.next.frame) - timeline.x(props.pin.frame))
const high = computed(() => props.to - props.from)
const ends = computed(() =>
  ([0, 2] as const).map((k) => ({
    k,
    end: { x: timeline.x(k ? props.next.frame : props.pin.frame), y: k ? props.to : props.from },
    x: timeline.x(props.pin.frame) + (cubic.value?.[k] ?? 0) * long.value,
    y: props.from + (cubic.value?.[k + 1] ?? 0) * high.value,
  })),
)
</script>

<template>
  <template v-if="cubic">
    <g v-for="h in ends" :key="h.k">
      <path class="arm" :d="`M${h.end.x} ${h.end.y}L${h.x} ${h.y}`" />
      <g
        class="knob"
        role="button"
        tabindex="0"
        data-keeps-focus
        :aria-label="`${h.k ? 'Arriving' : 'Leaving'} handle: ${cubic[h.k]}, ${cubic[h.k + 1]}`"
        :transform="`translate(${h.x} ${h.y})`"
        @pointerdown.stop="grab($event, h.k, long, high)"
        @keydown="key($event, h.k, high > 0)"
      >
        <circle r="12" class="room" />
        <circle r="4.5" />
      </g>
    </g>
  </template>
</template>

<style scoped>
.arm {
  stroke: var(--verdigris);
  stroke-width: 1.2;
  fill: none;
}
.knob {
  cursor: move;
  touch-action: none;
}
.knob circle {
  fill: var(--card);
  stroke: var(--verdigris);
  stroke-width: 2;
}
.knob .room {
  fill: transparent;
  stroke: none;
}
</style>
