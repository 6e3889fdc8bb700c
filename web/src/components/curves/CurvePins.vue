<script setup lang="ts">
import { computed } from 'vue'
import { usePinDragging, type Lift } from '@/composables/pinDragging'
import { useTimeline } from '@/stores/timeline'
import type { PickedPin } from '@/stores/selection'
import CurveHandles from './CurveHandles.vue'
import { valueOf, type Curve, type CurvePin } from './curves'

/** The pins of curves, to be dragged in time and value, and the handles of the spans of those that are picked. */
const props = defineProps<{
  pins: CurvePin[]
  y: (c: Curve, value: number) => number
  perPixel: (c: Curve) => number
  speed: boolean
  /** The curve whose pins lie over all others. */
  front?: Curve
}>()
const emit = defineEmits<{ held: [boolean]; reach: [c: Curve, frame: number, values: number[]] }>()
const timeline = useTimeline()
const { press, key } = usePinDragging()

const named = (p: CurvePin): PickedPin => ({ item: p.curve.ref.item, property: p.curve.ref.property, frame: p.pin.frame })
/** How its value follows the hand; how fast it changes can't be dragged. */
const lift = (p: CurvePin): Lift | undefined =>
  props.speed ? undefined : { component: p.curve.part || undefined, perPixel: props.perPixel(p.curve), step: props.perPixel(p.curve) }
const inSight = computed(() =>
  props.pins
    .map((p) => ({ p, x: timeline.x(p.pin.frame), y: props.y(p.curve, p.value) }))
    .filter((d) => d.x > -6 && d.x < timeline.width + 6)
    .sort((a, b) => Number(a.p.curve === props.front) - Number(b.p.curve === props.front)),
)
/** Handles of a span stand on its curve; along a path, they shape the speed and not the single component. */
const shaped = (p: CurvePin): boolean => p.picked && !!p.next && !(p.pin.lead ?? p.pin.arrive ?? p.next.lead ?? p.next.arrive)
const spans = computed(() => (props.speed ? [] : props.pins.filter(shaped).slice(0, 24)))
const dense = computed(() => props.pins.length * 8 > timeline.width)

/** Until it is let go, what is drawn keeps its scale. */
function hold(): void {
  emit('held', true)
  window.addEventListener('pointerup', () => emit('held', false), { once: true })
}
function grab(event: PointerEvent, p: CurvePin): void {
  hold()
  press(event, named(p), lift(p))
}
</script>

<template>
  <g>
    <CurveHandles
      v-for="p in spans"
      :key="`${p.curve.ref.item}/${p.curve.ref.property}${p.curve.part}@${p.pin.frame}`"
      :item="p.curve.ref.item"
      :property="p.curve.ref.property"
      :pin="p.pin"
      :next="p.next!"
      :from="y(p.curve, p.value)"
      :to="y(p.curve, valueOf(p.next!, p.curve))"
      @reach="
        (shares) =>
          emit(
            'reach',
            p.curve,
            p.pin.frame,
            shares.map((s) => p.value + s * (valueOf(p.next!, p.curve) - p.value)),
          )
      "
      @pointerdown="hold"
    />
    <g
      v-for="(d, i) in inSight"
      :key="i"
      class="pin"
      :class="{ on: d.p.picked, dense }"
      role="button"
      tabindex="0"
      data-keeps-focus
      :aria-label="`Pin of ${d.p.curve.name}${d.p.curve.part && '.' + d.p.curve.part} at frame ${d.p.pin.frame}`"
      :aria-pressed="d.p.picked"
      :transform="`translate(${d.x} ${d.y})`"
      @pointerdown.stop="grab($event, d.p)"
      @keydown="key($event, named(d.p), lift(d.p))"
      @dblclick.stop
    >
      <title>frame {{ d.p.pin.frame }} · {{ d.p.pin.easing }}</title>
      <circle r="9" class="room" />
      <path d="M0 0V11" />
      <circle r="3.6" />
    </g>
  </g>
</template>

<style scoped>
.pin {
  cursor: move;
  touch-action: none;
}
.pin path {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.pin circle {
  fill: var(--brass);
  stroke: var(--card);
}
.pin .room {
  fill: transparent;
  stroke: none;
}
.pin.dense path {
  display: none;
}
.pin.dense circle:not(.room) {
  r: 2px;
}
.pin.on circle:not(.room) {
  fill: var(--ink);
  stroke: var(--brass);
  stroke-width: 2;
}
</style>
