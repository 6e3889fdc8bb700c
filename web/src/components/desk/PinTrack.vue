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
const { moving, press, key, frameOf } = usePinDragging()

const track = useTemplateRef<HTMLDivElement>('track')
/** What is far from sight is not drawn. */
const near = useElementVisibility(track, { rootMargin: '400px' })
useNearTrack(props.item, near)
const none: Pin[] = []
const pins = computed<Pin[]>(() => doc.state(props.item, props.spec.key).pins ?? none)
const size = computed(() => props.spec.parts?.length ?? 1)
const top = 5
const deep = 8 // from the highest to the lowest value

const range = computed(() => {
  const list = props.spec.type === 'colour' ? [] : (props.samples ?? [])
  let lo = Infinity
  let hi = -Infinity
  for (const x of list) {
    lo = Math.min(lo, x)
    hi = Math.max(hi, x)
  }
  return hi > lo ? { lo, span: hi - lo } : { lo: lo - 1, span: 2 }
})
const y = (value: number): number => top + deep * (1 - (value - range.value.lo) / range.value.span)

const tenth = (x: number): number => Math.round(x * 10) / 10

/** One line for each component, through the samples of the core. */
const lines = computed(() => {
  const list = props.samples
  if (!list || props.spec.type === 'colour' || !near.value) return []
  const across = (timeline.frames * timeline.perFrame) / (list.length / size.value - 1)
  return Array.from({ length: size.value }, (_, k) => {
    let d = ''
    for (let i = 0; i * size.value + k < list.length; i++)
      d += `${i ? 'L' : 'M'}${tenth(timeline.inset + i * across)} ${tenth(y(list[i * size.value + k] as number))}`
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
const drawn = computed<Drawn[]>(() =>
  (near.value ? pins.value : none).map((pin, k, all) => {
    const value = Array.isArray(pin.value) ? pin.value[0] : pin.value
    return {
      pin,
      x: timeline.x(pin.frame),
      y: props.spec.type === 'colour' ? 9 : y(Number(value)),
      picked: picked.value.has(pin.frame - moving.value) || picked.value.has(pin.frame),
      dense: Math.min(pin.frame - (all[k - 1]?.frame ?? -Infinity), (all[k + 1]?.frame ?? Infinity) - pin.frame) * timeline.perFrame < 6,
    }
  }),
)

const named = (pin: Pin): PickedPin => ({ item: props.item, property: props.spec.key, frame: pin.frame })

function add(event: MouseEvent): void {
  void doc.gesture('pin', { targets: [{ item: props.item, property: props.spec.key }], at: frameOf(event) })
}
</script>

<template>
  <div
    ref="track"
    class="track"
    :class="{ picked: selection.control?.item === item && selection.control.property === spec.key }"
    :data-track="spec.name"
    :data-item="item"
    :data-property="spec.key"
    @dblclick="add"
  >
    <i v-if="band" class="band" :style="{ background: band, left: timeline.inset + 'px', right: timeline.inset + 'px' }" />
    <svg class="curve" aria-hidden="true"><path v-for="(d, k) in lines" :key="k" :d="d" /></svg>
    <button
      v-for="(d, i) in drawn"
      :key="i"
      class="plain pin"
      data-keeps-focus
      :class="{ on: d.picked, dense: d.dense }"
      :style="{ transform: `translate(${d.x - 6}px, ${d.y - 6}px)` }"
      :aria-label="`Pin of ${spec.name} at frame ${d.pin.frame}`"
      :aria-pressed="d.picked"
      :title="`frame ${d.pin.frame} · ${d.pin.easing}`"
      @pointerdown.stop="press($event, named(d.pin))"
      @dblclick.stop="playback.seek(d.pin.frame)"
      @keydown="key($event, named(d.pin))"
    >
      <svg viewBox="0 0 12 18" aria-hidden="true">
        <path d="M6 6V17" />
        <circle cx="6" cy="6" r="3.6" />
      </svg>
    </button>
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
.pin svg {
  width: 12px;
  height: 18px;
  display: block;
}
.pin path {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.pin circle {
  fill: var(--brass);
  stroke: var(--card);
  stroke-width: 1;
}
.pin.dense path {
  display: none;
}
.pin.dense circle {
  r: 2px;
}
.pin.on circle {
  fill: var(--ink);
  stroke: var(--brass);
  stroke-width: 2;
}
</style>
