<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { useTemplateRef } from 'vue'
import CurveMarks from './CurveMarks.vue'
import { pad, useCurves } from './curves'
import { usePlayback } from '@/stores/playback'

/**
 * Values over the composition: what is selected, with what drives it and the rest of its row. They come from the core; the curves of one
 * property have one range.
 */
const playback = usePlayback()
const host = useTemplateRef<HTMLDivElement>('host')
const { width, height } = useElementSize(host)

const { curves, frozen, drawn, before, pins, pointed, measured, unit, range, hover, x, now, save } = useCurves(width, height)

function point(event: PointerEvent): void {
  const box = host.value?.getBoundingClientRect()
  if (box)
    hover.value = Math.max(0, Math.min(playback.frames - 1, Math.round(((event.clientX - box.left) / box.width) * (playback.frames - 1))))
  scrub(event)
}
function scrub(event: PointerEvent): void {
  if (event.buttons !== 1) return
  const box = host.value?.getBoundingClientRect()
  if (box) playback.seek(((event.clientX - box.left) / box.width) * (playback.frames - 1))
}
</script>

<template>
  <section class="panel" aria-label="Curves" data-panel="curves">
    <header>
      <span class="quiet">{{ curves.length ? 'Each curve is scaled to its own range' : '' }}</span>
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
    <div class="body">
      <ul class="names" aria-label="Values at the playhead">
        <li v-for="{ c, hue, stroke } in drawn" :key="c.name + c.part" :class="{ source: c.source }" @pointerenter="pointed = c">
          <svg class="sample" viewBox="0 0 20 6" aria-hidden="true">
            <path d="M0 3H20" :style="{ stroke: `var(--label${hue})`, strokeDasharray: stroke }" /></svg
          ><span class="name" :title="c.name">{{ c.name }}{{ c.part && '.' + c.part }}</span
          ><span class="figures">{{ now(c) }}</span>
        </li>
      </ul>
      <div ref="host" class="plot" @pointerdown="scrub" @pointermove="point" @pointerleave="hover = null">
        <svg v-if="curves.length" role="img" :aria-label="`${curves.length} curves over ${playback.frames} frames`">
          <CurveMarks :width="width" :height="height" :pad="pad" :range="measured && range(measured)" :unit="unit" :hover="hover" />
          <path v-for="(d, i) in before" :key="'b' + i" class="before" :d="d" />
          <path
            v-for="{ c, d, hue, stroke } in drawn"
            :key="c.name + c.part"
            class="curve"
            :class="{ dashed: c.source }"
            :d="d"
            :style="{ stroke: `var(--label${hue})`, strokeDasharray: stroke }"
          />
          <g v-for="(p, i) in pins" :key="'p' + i" class="pin" :transform="`translate(${p.x} ${p.y})`">
            <path d="M0 0V11" />
            <circle r="3.6">
              <title>Pin at frame {{ p.frame }}</title>
            </circle>
          </g>
          <path class="head" :d="`M${x} 0V${height}`" />
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
  grid-template-columns: 280px minmax(0, 1fr);
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
  cursor: ew-resize;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.curve {
  fill: none;
  stroke-width: 1.8;
}
.dashed {
  stroke-dasharray: 6 4;
}
.before {
  fill: none;
  stroke: var(--track);
  stroke-width: 1.5;
}
.pin path {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.pin circle {
  fill: var(--brass);
  stroke: var(--card);
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
