<script setup lang="ts">
import { useElementVisibility } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { Id, Pin, Spec } from '@/core/types'
import { css } from '@/composables/format'
import { hand } from '@/composables/hand'
import { useNearTrack } from '@/composables/nearTracks'
import { usePinDragging } from '@/composables/pinDragging'
import { usePinMarks } from '@/composables/pinMarks'
import type { AllSamples } from '@/composables/samples'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection, type PickedPin } from '@/stores/selection'
import { useTimeline } from '@/stores/timeline'
import { trackLine } from './trackLine'

/** The track of a control: its pins, drawn as pins, and the way between them. */
const props = defineProps<{ item: Id; spec: Spec; samples: AllSamples }>()
const doc = useDocument()
const playback = usePlayback()
const selection = useSelection()
const timeline = useTimeline()
const { press, key, frameOf, moving } = usePinDragging()

const track = useTemplateRef<HTMLDivElement>('track')
const holder = useTemplateRef<HTMLDivElement>('holder')
/** What is far from sight is neither drawn nor looked at: what was drawn of it stays, out of everybody's reach. */
const near = useElementVisibility(track, { rootMargin: '120px' })
useNearTrack(props.item, near)
const samples = computed(() => props.samples.get(props.item)?.[props.spec.key] ?? undefined)
const none: Pin[] = []
const pins = computed<Pin[]>((was) => (near.value ? (doc.state(props.item, props.spec.key).pins ?? none) : (was ?? none)))
const size = computed(() => props.spec.parts?.length ?? 1)
const top = 5
const deep = 8 // from the highest to the lowest value

const range = computed<{ lo: number; span: number }>((was) => {
  const list = props.spec.type === 'colour' ? [] : (samples.value ?? [])
  let lo = Infinity
  let hi = -Infinity
  for (const x of list) {
    lo = Math.min(lo, x)
    hi = Math.max(hi, x)
  }
  const now = hi > lo ? { lo, span: hi - lo } : { lo: lo - 1, span: 2 }
  return was?.lo === now.lo && was.span === now.span ? was : now
})
/** Where a value lies: a function that is made once for all that is drawn with it. */
const height = computed(() => {
  const { lo, span } = range.value
  return (value: number): number => top + deep * (1 - (value - lo) / span)
})

/** One line for each component, through the samples of the core. */
const lines = computed<string[]>((was) => {
  if (!near.value) return was ?? []
  const list = samples.value
  if (!list || props.spec.type === 'colour') return []
  const [parts, y, inset] = [size.value, height.value, timeline.inset]
  const across = (timeline.frames * timeline.perFrame) / (list.length / parts - 1)
  return Array.from({ length: parts }, (_, k) => trackLine(list, parts, k, inset, across, y))
})

/** A colour shows as a band of what it is from pin to pin. */
const band = computed<string>((was) => {
  if (!near.value) return was ?? ''
  const list = samples.value
  if (!list || props.spec.type !== 'colour') return ''
  const count = list.length / 4
  const stops: string[] = []
  for (let i = 0; i < count; i += 4) stops.push(`${css(list.slice(4 * i, 4 * i + 4))} ${((100 * i) / (count - 1)).toFixed(1)}%`)
  return `linear-gradient(90deg, ${stops.join(', ')})`
})

/** Those of before where they are the same, so that nothing is drawn anew when others are picked. */
const picked = computed<ReadonlySet<number>>((was) => {
  if (was && !near.value) return was
  const now = selection.framesOf(props.item, props.spec.key)
  return was?.size === now.size && [...now].every((f) => was.has(f)) ? was : now
})
const marks = usePinMarks(holder, () =>
  near.value
    ? {
        pins: pins.value,
        name: props.spec.name,
        picked: picked.value,
        x: timeline.x,
        y: props.spec.type === 'colour' ? () => 9 : height.value,
        perFrame: timeline.perFrame,
        moving: doc.moving,
      }
    : null,
)

const asPicked = (pin: Pin): PickedPin => ({ item: props.item, property: props.spec.key, frame: pin.frame })

function down(event: PointerEvent): void {
  const on = marks.of(event)
  if (!on) return
  event.stopPropagation()
  press(event, asPicked(on.pin), undefined, on.mark)
}

function twice(event: MouseEvent): void {
  const on = marks.of(event)
  if (on) playback.seek(on.pin.frame)
  else void doc.gesture('pin', { targets: [{ item: props.item, property: props.spec.key }], at: frameOf(event) })
}

function pressed(event: KeyboardEvent): void {
  const on = marks.of(event)
  if (!on) return
  const pin = asPicked(on.pin)
  const along = event.shiftKey ? undefined : { ArrowLeft: -1, ArrowRight: 1, Home: -Infinity, End: Infinity }[event.key]
  // Those that are picked are moved by arrow keys; with Shift, by ten frames, also one that is not.
  if (!along || !hand.byKeyboard || selection.hasPin(pin) || moving()) return void key(event, pin)
  event.preventDefault()
  event.stopPropagation()
  marks.go(on.mark, along)
}
</script>

<template>
  <div
    ref="track"
    class="track"
    :class="{ far: !near, picked: selection.control?.item === item && selection.control.property === spec.key }"
    :data-track="spec.name"
    :data-item="item"
    :data-property="spec.key"
    @pointerdown="down"
    @dblclick="twice"
    @keydown="pressed"
  >
    <i v-if="band" class="band" :style="{ background: band, left: timeline.inset + 'px', right: timeline.inset + 'px' }" />
    <svg class="curve" aria-hidden="true"><path v-for="(d, k) in lines" :key="k" :d="d" transform="scale(0.1)" /></svg>
    <div ref="holder" class="pins" />
  </div>
</template>

<style scoped>
/* What is not in sight is not drawn. */
.track {
  content-visibility: auto;
  contain-intrinsic-height: 26px;
  position: relative;
  grid-column: 2;
  min-height: 26px;
  border-bottom: 1px solid var(--line);
  overflow: hidden;
  touch-action: none;
}
.track.picked {
  background: var(--sunk);
}
/* What has the focus keeps it. */
.far .curve,
.far .band,
.far :deep(.pin:not(:focus)) {
  visibility: hidden;
}
.curve {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.curve path {
  fill: none;
  stroke: var(--brass);
  stroke-width: 12;
  opacity: 0.65;
}
.band {
  position: absolute;
  top: 6px;
  height: 7px;
  border-radius: 2px;
  pointer-events: none;
}
/* The marks are made by hand: they only have what is said here of all. */
.pins :deep(.pin) {
  position: absolute;
  left: 0;
  top: 0;
  width: 12px;
  height: 18px;
  cursor: ew-resize;
  touch-action: none;
}
/* A head on a stem. */
.pins :deep(.pin::before),
.pins :deep(.pin::after) {
  content: '';
  position: absolute;
}
.pins :deep(.pin::before) {
  left: 5.4px;
  top: 6px;
  width: 1.2px;
  height: 11px;
  background: var(--ink);
}
.pins :deep(.pin::after) {
  left: 1.9px;
  top: 1.9px;
  width: 8.2px;
  height: 8.2px;
  border-radius: 50%;
  background: var(--brass);
  border: 1px solid var(--card);
}
.pins :deep(.pin.dense::before) {
  display: none;
}
.pins :deep(.pin.dense::after) {
  left: 3.5px;
  top: 3.5px;
  width: 5px;
  height: 5px;
}
.pins :deep(.pin.on::after) {
  background: var(--ink);
  border: 2px solid var(--brass);
}
@media (forced-colors: active) {
  .pins :deep(.pin::before) {
    background: CanvasText;
  }
  .pins :deep(.pin::after) {
    forced-color-adjust: none;
    background: CanvasText;
    border-color: Canvas;
  }
  .pins :deep(.pin.on::after) {
    background: Highlight;
    border-color: CanvasText;
  }
}
</style>
