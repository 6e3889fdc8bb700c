<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { dragging } from '@/composables/drag'
import { css, short } from '@/composables/format'
import type { MapStop } from '@/core/types'
import { useDocument } from '@/stores/document'

/** The response of a map: input across, output up, with a dot where it is at this frame. Its stops are dragged. */
const props = defineProps<{
  stops: MapStop[]
  type: string // of what the map gives
  input?: number // at this frame
  reach?: [from: number, to: number] // of the input, besides the stops
  room?: [from: number, to: number] // of the output, where all stops give the same
  response: (from: number, to: number, steps: number) => Promise<number[]>
}>()
const emit = defineEmits<{
  preview: [at: number, what: MapStop]
  change: [at: number, what: MapStop]
  add: [what: MapStop]
  remove: [at: number]
}>()
const doc = useDocument()

const width = 252
const height = 92
const pad = 8
const steps = 64

const single = computed(() => props.type === 'number')

/** What is shown across: all stops and the whole range of the source. */
const span = computed<[number, number]>(() => {
  const xs = [...props.stops.map((s) => s.in), ...(props.reach ?? [])]
  const [lo, hi] = [Math.min(...xs), Math.max(...xs)]
  return hi > lo ? [lo, hi] : [lo - 1, hi + 1]
})
const answered = shallowRef<number[]>([])
watch(
  [() => doc.rested, span, () => props.stops],
  async () => {
    const [from, to] = span.value
    answered.value = await props.response(from, to, steps)
  },
  { immediate: true },
)

const outs = computed(() => answered.value.slice(0, single.value ? steps : answered.value.length))
const fitting = computed<[number, number]>(() => {
  const [lo, hi] = [Math.min(...outs.value, Infinity), Math.max(...outs.value, -Infinity)]
  if (!Number.isFinite(lo)) return [0, 1]
  if (hi - lo > 1e-9) return [lo, hi]
  const [from, to] = props.room ?? [lo, lo]
  return from < to ? [Math.min(from, lo), Math.max(to, lo)] : [lo - 50, lo + 50]
})
/** The range stays as it is while a stop is dragged, so that the curve does not run away from the pointer. */
const kept = shallowRef<[number, number] | null>(null)
const range = computed(() => kept.value ?? fitting.value)
const px = (x: number): number => pad + ((x - span.value[0]) / (span.value[1] - span.value[0])) * (width - 2 * pad)
const py = (y: number): number => height - pad - ((y - range.value[0]) / (range.value[1] - range.value[0])) * (height - 2 * pad)
const curves = computed(() => {
  const out: string[] = []
  for (let c = 0; c < outs.value.length; c += steps) {
    out.push(
      'M' +
        outs.value
          .slice(c, c + steps)
          .map((y, i) => `${px(span.value[0] + ((span.value[1] - span.value[0]) * i) / (steps - 1)).toFixed(1)} ${py(y).toFixed(1)}`)
          .join('L'),
    )
  }
  return out
})
const colour = computed(() => props.type === 'colour')
const strip = computed(() =>
  colour.value ? Array.from({ length: steps }, (_, i) => css([0, 1, 2, 3].map((c) => answered.value[c * steps + i] ?? 0))) : [],
)
const here = computed(() => {
  if (props.input === undefined) return null
  const at = answered.value[Math.round(((props.input - span.value[0]) / (span.value[1] - span.value[0])) * (steps - 1))]
  return at === undefined ? null : { x: px(props.input), y: py(at) }
})

/** Drags a stop between its neighbours; up and down where it is one number. */
function drag(event: PointerEvent, i: number): void {
  const was = props.stops[i] as MapStop
  const before = props.stops[i - 1]?.in ?? -Infinity
  const after = props.stops[i + 1]?.in ?? Infinity
  const [x0, x1] = span.value
  const [y0, y1] = range.value
  const gap = (x1 - x0) / 200
  let next = was
  kept.value = range.value
  dragging(
    event,
    (dx, dy) => {
      const at = Math.min(after - gap, Math.max(before + gap, was.in + (dx * (x1 - x0)) / (width - 2 * pad)))
      const clean = (x: number): number => Math.round(x * 1000) / 1000
      next = {
        ...was,
        in: clean(at),
        out: single.value && typeof was.out === 'number' ? clean(was.out - (dy * (y1 - y0)) / (height - 2 * pad)) : was.out,
      }
      emit('preview', i, next)
    },
    (moved) => {
      kept.value = null
      if (moved) emit('change', i, next)
    },
    () => {
      kept.value = null
      void doc.cancelPreview()
    },
  )
}

/** The response at an input, component by component. */
function at(x: number): number[] {
  const k = Math.round(((x - span.value[0]) / (span.value[1] - span.value[0])) * (steps - 1))
  return Array.from(
    { length: answered.value.length / steps },
    (_, c) => answered.value[c * steps + Math.max(0, Math.min(steps - 1, k))] ?? 0,
  )
}

/** Adds a stop where the curve passes the pointer, so that nothing changes yet. */
function add(event: MouseEvent): void {
  const box = (event.currentTarget as Element).getBoundingClientRect()
  const share = ((event.clientX - box.left) / box.width) * width
  const x = Math.round((span.value[0] + ((share - pad) / (width - 2 * pad)) * (span.value[1] - span.value[0])) * 100) / 100
  if (props.type === 'text' || props.stops.some((s) => s.in === x)) return
  const out = at(x)
  emit('add', { in: x, out: single.value ? (out[0] ?? 0) : out, easing: 'linear' })
}

/** A stop that has the focus is removed, or moved if it was reached by keyboard. */
function key(event: KeyboardEvent, i: number): void {
  const s = props.stops[i] as MapStop
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key]
  if (event.key === 'Delete' || event.key === 'Backspace') emit('remove', i)
  else if (by && !event.ctrlKey && !event.altKey) {
    const k = event.shiftKey ? 10 : 1
    const to = s.in + (by[0] ?? 0) * k
    if (to <= (props.stops[i - 1]?.in ?? -Infinity) || to >= (props.stops[i + 1]?.in ?? Infinity)) return
    emit('change', i, { ...s, in: to, out: typeof s.out === 'number' ? s.out + (by[1] ?? 0) * k : s.out })
  } else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <svg
    class="plot"
    :viewBox="`0 0 ${width} ${height}`"
    role="group"
    :aria-label="`Response of the map: ${stops.length} stops`"
    @dblclick="add"
  >
    <title>Double-click to add a stop</title>
    <rect class="ground" :width="width" :height="height" rx="3" />
    <template v-if="colour">
      <rect
        v-for="(c, i) in strip"
        :key="i"
        :x="pad + (i * (width - 2 * pad)) / steps"
        :y="pad"
        :width="(width - 2 * pad) / steps + 0.5"
        :height="height - 2 * pad"
        :fill="c"
      />
    </template>
    <template v-else><path v-for="(d, i) in curves" :key="i" class="curve" :d="d" /></template>
    <path
      v-if="input !== undefined"
      class="now"
      :d="`M${px(Math.max(span[0], Math.min(span[1], input)))} ${pad / 2}V${height - pad / 2}`"
    />
    <circle v-if="here && single" class="dot" :cx="here.x" :cy="here.y" r="3.5" />
    <g
      v-for="(s, i) in stops"
      :key="i"
      class="stop"
      :data-stop="i"
      :transform="`translate(${px(s.in)} ${single && typeof s.out === 'number' ? py(s.out) : height - pad})`"
      tabindex="0"
      role="button"
      data-keeps-focus
      :aria-label="`Stop ${i + 1} at ${short(s.in)}`"
      @pointerdown="drag($event, i)"
      @dblclick.stop
      @keydown="key($event, i)"
    >
      <circle class="hit" r="15" />
      <circle class="ring" r="4.5" />
    </g>
  </svg>
</template>

<style scoped>
.plot {
  width: 100%;
  display: block;
  touch-action: none;
  margin: 2px 0;
}
.ground {
  fill: var(--card);
  stroke: var(--line);
}
.curve {
  fill: none;
  stroke: var(--verdigris);
  stroke-width: 1.8;
}
.now {
  stroke: var(--oxblood);
  stroke-width: 1;
  opacity: 0.7;
}
.dot {
  fill: var(--oxblood);
}
.stop {
  cursor: move;
}
.ring {
  fill: var(--card);
  stroke: var(--brass);
  stroke-width: 2;
}
.stop:focus {
  outline: none;
}
.stop:focus .ring {
  fill: var(--brass);
}
.stop:focus-visible .hit {
  stroke: var(--brass);
}
.hit {
  fill: transparent;
}
</style>
