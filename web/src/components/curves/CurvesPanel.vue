<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import PinTools from '@/components/desk/PinTools.vue'
import TimeRuler from '@/components/desk/TimeRuler.vue'
import { usePickingFrame } from '@/composables/pickingFrame'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useTimeline } from '@/stores/timeline'
import CurveMarks from './CurveMarks.vue'
import CurvePins from './CurvePins.vue'
import { pad, useCurves } from './curves'

/**
 * Values over the composition: what is selected, with what drives it and the rest of its row, and their pins, to be moved and
 * shaped. They come from the core.
 */
const doc = useDocument()
const playback = usePlayback()
const timeline = useTimeline()
const picking = usePickingFrame()
const host = useTemplateRef<HTMLDivElement>('host')
const { width, height } = useElementSize(host)
watch(width, (w) => w && (timeline.width = w))

const { curves, frozen, fitted, speed, still, reach, drawn, before, pins, pointed, measured, range, perPixel, y, at, hover, now, save } =
  useCurves(height)
const unit = computed(() => measured.value?.unit ?? '')
const x = computed(() => timeline.x(playback.frame))

const place = (event: MouseEvent): { x: number; y: number } => {
  const bounds = host.value?.getBoundingClientRect()
  return { x: event.clientX - (bounds?.left ?? 0), y: event.clientY - (bounds?.top ?? 0) }
}

/** A press on a free place draws a frame that picks what lies in it; with Shift, besides what is picked already. */
const box = ref<{ x: number; y: number; width: number; height: number } | null>(null)
function draw(event: PointerEvent): void {
  const from = place(event)
  const frame = picking(event)
  still.value = true // handles come into sight meanwhile
  frame.follow(
    (dx, dy) => {
      const b = { x: Math.min(from.x, from.x + dx), y: Math.min(from.y, from.y + dy), width: Math.abs(dx), height: Math.abs(dy) }
      box.value = b
      const found = pins.value
        .map((p) => ({ p, at: { x: timeline.x(p.pin.frame), y: y(p.curve, p.value) } }))
        .filter(({ at }) => at.x >= b.x && at.x <= b.x + b.width && at.y >= b.y && at.y <= b.y + b.height)
        .map(({ p }) => ({ item: p.curve.ref.item, property: p.curve.ref.property, frame: p.pin.frame }))
      // A pin of a point is on the curve of each of its components.
      frame.pick([...new Map(found.map((p) => [`${p.item}/${p.property}@${p.frame}`, p])).values()])
    },
    () => {
      box.value = null
      still.value = false
    },
  )
}

/** A double click pins the curve that is nearest, at that frame. */
function add(event: MouseEvent): void {
  const to = place(event)
  const frame = playback.within(timeline.frameAt(to.x))
  const own = curves.value.filter((c) => !c.source)
  const far = own.map((c) => Math.abs(y(c, at(c, frame)) - to.y))
  const nearest = own[far.indexOf(Math.min(...far))]
  if (nearest) void doc.gesture('pin', { targets: [nearest.ref], at: frame })
}

const wheel = (event: WheelEvent): void => timeline.wheel(event, place(event).x)
</script>

<template>
  <section class="panel" aria-label="Curves" data-panel="curves">
    <header>
      <PinTools v-if="curves.length" curves />
      <span class="space" />
      <button v-if="curves.length" class="plain act" @click="frozen = frozen.length ? [] : curves">
        {{ frozen.length ? 'Clear comparison' : 'Keep for comparison' }}
      </button>
      <button
        v-if="curves.length"
        class="plain act"
        title="Every frame of the selected properties, as comma-separated values"
        @click="save"
      >
        Export CSV
      </button>
    </header>
    <div class="body" @wheel="wheel">
      <div class="ways">
        <template v-if="curves.length">
          <button class="plain act" :aria-pressed="fitted" title="Each curve by its own range" @click="fitted = true">Fitted</button>
          <button class="plain act" :aria-pressed="!fitted" title="All curves of one unit by the same range" @click="fitted = false">
            True scale
          </button>
          <button class="plain act" :aria-pressed="speed" title="How fast they change, per second" @click="speed = !speed">Speed</button>
        </template>
      </div>
      <div class="scale"><TimeRuler /></div>
      <ul class="names" aria-label="Values at the playhead">
        <li v-for="{ c, hue, stroke } in drawn" :key="c.name + c.part" :class="{ source: c.source }" @pointerenter="pointed = c">
          <svg class="sample" viewBox="0 0 20 6" aria-hidden="true">
            <path d="M0 3H20" :style="{ stroke: `var(--label${hue})`, strokeDasharray: stroke }" /></svg
          ><span class="name" :title="c.name">{{ c.name }}{{ c.part && '.' + c.part }}</span
          ><span class="figures">{{ now(c) }}</span>
        </li>
      </ul>
      <div
        ref="host"
        class="plot"
        @pointerdown="draw"
        @pointermove="hover = playback.within(timeline.frameAt(place($event).x))"
        @pointerleave="hover = null"
        @dblclick="add"
      >
        <svg v-if="curves.length" role="group" :aria-label="`${curves.length} curves over ${playback.frames} frames`">
          <CurveMarks :width="width" :height="height" :pad="pad" :range="measured && range(measured)" :unit="unit" :hover="hover" />
          <path v-for="(d, i) in before" :key="'b' + i" class="before" :d="d" />
          <path
            v-for="{ c, d, hue, stroke } in drawn"
            :key="c.name + c.part"
            class="curve"
            :d="d"
            :style="{ stroke: `var(--label${hue})`, strokeDasharray: stroke }"
          />
          <path class="head" :d="`M${x} 0V${height}`" />
          <CurvePins
            :pins="pins"
            :y="y"
            :per-pixel="perPixel"
            :speed="speed"
            :front="measured"
            @held="(on) => (still = on)"
            @reach="reach"
          />
          <rect v-if="box" class="box" v-bind="box" />
        </svg>
        <p v-else class="empty">Select a property or control to see its curve and what drives it.</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 30px;
  border-bottom: 1px solid var(--line);
  background: var(--sunk);
  flex: none;
  font-size: 12px;
}
.act {
  color: var(--brassText);
  padding: 0 5px;
  border-radius: 3px;
}
.act:hover {
  background: var(--picked);
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template: 25px minmax(0, 1fr) / 280px minmax(0, 1fr);
}
.space {
  flex: 1;
}
.ways,
.scale {
  border-bottom: 1px solid var(--line);
}
.ways {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 0 8px;
  font-size: 12px;
  border-right: 1px solid var(--line);
}
.ways .act {
  color: inherit;
  min-height: 22px;
}
.ways .act[aria-pressed='true'] {
  background: var(--picked);
  color: var(--brassText);
}
.box {
  fill: var(--verdigrisSoft);
  fill-opacity: 0.4;
  stroke: var(--verdigris);
  stroke-dasharray: 4 3;
}
.names {
  list-style: none;
  margin: 0;
  padding: 6px 12px;
  overflow: auto;
  border-right: 1px solid var(--line);
  font-size: 12px;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 22px;
}
li i {
  width: 12px;
  height: 3px;
  border-radius: 2px;
  flex: none;
}
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.source .name {
  color: var(--ink2);
}
.plot {
  position: relative;
  min-width: 0;
  overflow: hidden;
  touch-action: none;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.curve,
.head {
  fill: none;
  pointer-events: none;
}
.curve {
  stroke-width: 1.8;
}
.before {
  fill: none;
  stroke: var(--track);
  stroke-width: 1.5;
}
.names .sample {
  position: static;
  width: 20px;
  height: 6px;
  flex: none;
}
.sample path {
  stroke-width: 2;
}
.head {
  stroke: var(--oxblood);
  stroke-width: 1;
}
.empty {
  color: var(--ink2);
  padding: 12px;
  margin: 0;
}
</style>
