<script setup lang="ts">
import { useElementVisibility } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { Id, Pin, Spec } from '@/core/types'
import { css } from '@/composables/format'
import { useNearTrack } from '@/composables/nearTracks'
import { usePinDragging } from '@/composables/pinDragging'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection, type PickedPin } from '@/stores/selection'
import { useTimeline } from '@/stores/timeline'

/** The track of a control: its pins, drawn as pins, and the way between them. */
const props = defineProps<{ item: Id; spec: Spec; samples: number[] | undefined; steps: number }>()
const doc = useDocument()
const playback = usePlayback()
const selection = useSelection()
const timeline = useTimeline()
const { press, key, frameOf } = usePinDragging()

const track = useTemplateRef<HTMLDivElement>('track')
/** What is far from sight is not drawn. */
const near = useElementVisibility(track, { rootMargin: '200px' })
useNearTrack(props.item, near)
const none: Pin[] = []
const pins = computed<Pin[]>(() => doc.state(props.item, props.spec.key).pins ?? none)
const size = computed(() => props.spec.parts?.length ?? 1)
const top = 5
const deep = 8 // from the highest to the lowest value

const range = computed<{ lo: number; span: number }>((was) => {
  const list = props.spec.type === 'colour' ? [] : (props.samples ?? [])
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

const tenth = (x: number): number => Math.round(x * 10) / 10

/** One line for each component, through the samples of the core. */
const lines = computed<string[]>((was) => {
  const list = props.samples
  if (!list || props.spec.type === 'colour') return []
  if (!near.value) return was ?? []
  const [parts, y, inset] = [size.value, height.value, timeline.inset]
  const across = (timeline.frames * timeline.perFrame) / (list.length / parts - 1)
  return Array.from({ length: parts }, (_, k) => {
    let d = ''
    for (let i = 0; i * parts + k < list.length; i++)
      d += `${i ? 'L' : 'M'}${tenth(inset + i * across)} ${tenth(y(list[i * parts + k] as number))}`
    return d
  })
})

/** A colour shows as a band of what it is from pin to pin. */
const band = computed(() => {
  const list = props.samples
  if (!list || props.spec.type !== 'colour') return ''
  const count = list.length / 4
  const stops: string[] = []
  for (let i = 0; i < count; i += 4) stops.push(`${css(list.slice(4 * i, 4 * i + 4))} ${((100 * i) / (count - 1)).toFixed(1)}%`)
  return `linear-gradient(90deg, ${stops.join(', ')})`
})

interface Drawn {
  pin: Pin
  x: number
  y: number
  picked: boolean
  /** There is no room for whole pins: they are dots. */
  dense: boolean
}

/** Those of before where they are the same, so that nothing is drawn anew when others are picked. */
const picked = computed<ReadonlySet<number>>((was) => {
  const now = selection.framesOf(props.item, props.spec.key)
  return was?.size === now.size && [...now].every((f) => was.has(f)) ? was : now
})
/** What is drawn of a track that went out of sight is left, out of everybody's reach: taking it away would cost as much as drawing it. */
let drawnOf: unknown[] = []
const standing = (): unknown[] => [pins.value, timeline.perFrame, timeline.from]
const stale = computed(() => !near.value && standing().some((now, k) => now !== drawnOf[k]))
const drawn = computed<Drawn[]>((was) => {
  if (!near.value) return was ?? []
  drawnOf = standing()
  const [x, perFrame, all] = [timeline.x, timeline.perFrame, pins.value]
  const [on, y] = [picked.value, props.spec.type === 'colour' ? () => 9 : height.value]
  return all.map((pin, k) => ({
    pin,
    x: tenth(x(pin.frame)),
    y: tenth(y(Number(Array.isArray(pin.value) ? pin.value[0] : pin.value))),
    picked: on.has(pin.frame),
    dense: Math.min(pin.frame - (all[k - 1]?.frame ?? -Infinity), (all[k + 1]?.frame ?? Infinity) - pin.frame) * perFrame < 6,
  }))
})

/** The pin that something happens to. There is one way for all of them, however many there are. */
function pinOf(event: Event): PickedPin | undefined {
  const button = (event.target as Element).closest('.pin')
  const pin = button && drawn.value[[...(track.value?.querySelectorAll('.pin') ?? [])].indexOf(button)]?.pin
  return pin ? { item: props.item, property: props.spec.key, frame: pin.frame } : undefined
}

function down(event: PointerEvent): void {
  const pin = pinOf(event)
  if (!pin) return
  event.stopPropagation()
  press(event, pin, undefined, (event.target as Element).closest<HTMLElement>('.pin') ?? undefined)
}

function twice(event: MouseEvent): void {
  const pin = pinOf(event)
  if (pin) playback.seek(pin.frame)
  else void doc.gesture('pin', { targets: [{ item: props.item, property: props.spec.key }], at: frameOf(event) })
}

function pressed(event: KeyboardEvent): void {
  const pin = pinOf(event)
  if (pin) void key(event, pin)
}
</script>

<template>
  <div
    ref="track"
    class="track"
    :class="{ stale, picked: selection.control?.item === item && selection.control.property === spec.key }"
    :data-track="spec.name"
    :data-item="item"
    :data-property="spec.key"
    @pointerdown="down"
    @dblclick="twice"
    @keydown="pressed"
  >
    <i v-if="band" class="band" :style="{ background: band, left: timeline.inset + 'px', right: timeline.inset + 'px' }" />
    <svg class="curve" aria-hidden="true"><path v-for="(d, k) in lines" :key="k" :d="d" /></svg>
    <button
      v-for="(d, i) in drawn"
      :key="i"
      v-memo="[d.pin, d.x, d.y, d.picked, d.dense, spec.name]"
      class="plain pin"
      data-keeps-focus
      :class="{ on: d.picked, dense: d.dense }"
      :style="`transform: translate(${d.x - 6}px, ${d.y - 6}px)`"
      :aria-label="`Pin of ${spec.name} at frame ${d.pin.frame}`"
      :aria-pressed="d.picked"
      :title="`frame ${d.pin.frame} · ${d.pin.easing}`"
    />
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
.stale > * {
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
  stroke-width: 1.2;
  opacity: 0.65;
}
.band {
  position: absolute;
  top: 6px;
  height: 7px;
  border-radius: 2px;
  pointer-events: none;
}
.pin {
  position: absolute;
  left: 0;
  top: 0;
  width: 12px;
  height: 18px;
  cursor: ew-resize;
  touch-action: none;
}
/* A head on a stem. */
.pin::before,
.pin::after {
  content: '';
  position: absolute;
}
.pin::before {
  left: 5.4px;
  top: 6px;
  width: 1.2px;
  height: 11px;
  background: var(--ink);
}
.pin::after {
  left: 1.9px;
  top: 1.9px;
  width: 8.2px;
  height: 8.2px;
  border-radius: 50%;
  background: var(--brass);
  border: 1px solid var(--card);
}
.pin.dense::before {
  display: none;
}
.pin.dense::after {
  left: 3.5px;
  top: 3.5px;
  width: 5px;
  height: 5px;
}
.pin.on::after {
  background: var(--ink);
  border: 2px solid var(--brass);
}
@media (forced-colors: active) {
  .pin::before {
    background: CanvasText;
  }
  .pin::after {
    forced-color-adjust: none;
    background: CanvasText;
    border-color: Canvas;
  }
  .pin.on::after {
    background: Highlight;
    border-color: CanvasText;
  }
}
</style>
