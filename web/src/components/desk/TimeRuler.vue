<script setup lang="ts">
import { computed } from 'vue'
import { dragging } from '@/composables/drag'
import { usePlayback } from '@/stores/playback'
import { useTimeline } from '@/stores/timeline'

const playback = usePlayback()
const timeline = useTimeline()

/** Marks at a spacing that leaves room for their labels. */
const marks = computed(() => {
  const rate = playback.rate
  const steps = [1, 2, 5, 10, rate, 2 * rate, 5 * rate, 10 * rate, 30 * rate, 60 * rate, 300 * rate, 600 * rate]
  const step = steps.find((s) => s * timeline.perFrame >= 56) ?? 3600 * rate
  const out: { x: number; label: string }[] = []
  for (let f = Math.ceil(timeline.from / step) * step; f <= timeline.from + timeline.frames; f += step) {
    const x = timeline.x(f)
    const fits = x + 30 < timeline.width
    out.push({ x, label: !fits ? '' : step % rate === 0 ? `${f / rate}s` : `${f}` })
  }
  return out
})

/** Shift draws the range that playing stays in. */
function scrub(event: PointerEvent): void {
  const left = (event.currentTarget as HTMLElement).getBoundingClientRect().left
  if (event.shiftKey) {
    const from = timeline.frameAt(event.clientX - left)
    const was = playback.range
    return dragging(
      event,
      (_dx, _dy, e) => playback.stay(from, timeline.frameAt(e.clientX - left)),
      (moved) => !moved && (playback.range = null),
      () => (playback.range = was),
    )
  }
  playback.pause()
  playback.seek(timeline.frameAt(event.clientX - left))
  dragging(event, (_dx, _dy, e) => playback.seek(timeline.frameAt(e.clientX - left)))
}
function end(event: PointerEvent, k: 0 | 1): void {
  const was = playback.range
  if (!was) return
  const left = (event.currentTarget as HTMLElement).parentElement?.getBoundingClientRect().left ?? 0
  const other = was[1 - k] ?? 0
  dragging(
    event,
    (_dx, _dy, e) => playback.stay(other, timeline.frameAt(e.clientX - left)),
    undefined,
    () => (playback.range = was),
  )
}
</script>

<template>
  <div
    class="ruler"
    role="slider"
    tabindex="0"
    aria-label="Playhead"
    :aria-valuenow="playback.frame"
    :aria-valuemin="0"
    :aria-valuemax="playback.frames - 1"
    :aria-valuetext="`frame ${playback.frame}`"
    @pointerdown="scrub"
  >
    <template v-if="playback.range">
      <i
        class="range"
        :style="{
          left: timeline.x(playback.range[0]) + 'px',
          width: timeline.x(playback.range[1]) - timeline.x(playback.range[0]) + 'px',
        }"
      />
      <i
        v-for="k in [0, 1] as const"
        :key="k"
        class="end"
        title="Drag an end of the range; Shift click on the ruler takes it away"
        :style="{ left: timeline.x(playback.range[k]) - 4 + 'px' }"
        @pointerdown.stop="end($event, k)"
      />
    </template>
    <span v-for="m in marks" :key="m.x" class="mark figures" :style="{ left: m.x + 'px' }">{{ m.label }}</span>
    <svg class="head" viewBox="0 0 12 14" :style="{ transform: `translateX(${timeline.x(playback.frame) - 6}px)` }" aria-hidden="true">
      <path d="M1 0h10v8l-5 5l-5 -5z" />
    </svg>
  </div>
</template>

<style scoped>
.ruler {
  position: relative;
  height: 24px;
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
}
.ruler:focus-visible {
  outline-offset: -2px;
}
.ruler:focus-visible .head {
  stroke: var(--ink);
}
.mark {
  position: absolute;
  bottom: 0;
  height: 16px;
  padding-left: 4px;
  border-left: 1px solid var(--line);
  font-size: 11px;
  color: var(--ink2);
}
.range {
  position: absolute;
  top: 0;
  bottom: 0;
  background: var(--picked);
}
.end {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 8px;
  z-index: 1;
}
.end::after {
  content: '';
  position: absolute;
  inset: 0 3px;
  background: var(--brass);
}
.head {
  position: absolute;
  top: 0;
  left: 0;
  width: 12px;
  height: 14px;
  fill: var(--oxblood);
}
</style>
