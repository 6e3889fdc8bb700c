<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { dragging } from '@/composables/drag'
import { hand } from '@/composables/hand'
import { useSnapping } from '@/composables/pinSnapping'
import { useTurns } from '@/composables/turns'
import type { Samples } from '@/composables/samples'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useTimeline } from '@/stores/timeline'

/** Under the ruler: how loud a sound is, over the stretch in sight. A press selects it, a drag moves where it begins. */
const props = defineProps<{ item: Id; samples?: Samples }>()
const doc = useDocument()
const playback = usePlayback()
const selection = useSelection()
const timeline = useTimeline()
const snapped = useSnapping()
const inTurn = useTurns()
const strip = useTemplateRef<HTMLButtonElement>('strip')
const middle = 12
const high = 9

const name = computed(() => doc.items.get(props.item)?.name ?? '')
const sound = computed(() => doc.items.get(props.item)?.sound)
const start = computed(() => sound.value?.start ?? 0)
const length = computed(() => (sound.value?.seconds ?? 0) * playback.rate)

/** As loud above the middle as below it. */
const wave = computed(() => {
  const list = props.samples?.loudness
  if (!list) return ''
  const across = (timeline.frames * timeline.perFrame) / (list.length - 1)
  const at = (side: number) => (loud: number, k: number) =>
    `${(timeline.inset + k * across).toFixed(1)} ${(middle - (side * high * loud) / 100).toFixed(1)}`
  const [above, below] = [list.map(at(1)), list.map(at(-1)).reverse()]
  return `M${above.join('L')}L${below.join('L')}Z`
})

const begin = (frame: number) => ({ op: 'sound.start' as const, item: props.item, start: frame })

function press(event: PointerEvent): void {
  const from = start.value
  let to = from
  dragging(
    event,
    (dx, _dy, e) => {
      to = from + snapped([from, from + length.value], dx, e.ctrlKey, [0])
      void doc.preview('operations', { ops: doc.here(begin(to)) })
    },
    (moved) => {
      if (!moved) selection.pick(props.item)
      else if (to === from) void doc.cancelPreview()
      else void doc.operations(begin(to))
    },
    () => void doc.cancelPreview(),
    strip.value ?? undefined,
  )
}

function key(event: KeyboardEvent): void {
  const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  const removes = ['Delete', 'Backspace'].includes(event.key)
  if (!(step && hand.byKeyboard) && !removes && event.key !== 'Enter') return
  event.preventDefault()
  event.stopPropagation()
  const far = event.shiftKey ? 10 : 1
  if (step) void inTurn(() => doc.operations(begin(start.value + step * far)))
  else if (!removes) selection.pick(props.item)
  else {
    strip.value?.closest('[data-ruler]')?.querySelector<HTMLElement>('[role=slider]')?.focus() // keys go on there
    void doc.gesture('remove', { items: [props.item] })
  }
}
</script>

<template>
  <div class="sound" :class="{ picked: selection.has(item), silent: doc.hidden.has(item) }">
    <button
      ref="strip"
      class="plain stretch"
      data-keeps-focus
      :style="{ left: `${timeline.x(start)}px`, width: `${length * timeline.perFrame}px` }"
      :aria-label="`${name}, sound from frame ${start}`"
      :title="`${name} · from frame ${start}${doc.hidden.has(item) ? ' · hidden, not heard' : ''} (drag to move, Del to remove)`"
      @pointerdown.stop="press"
      @keydown="key"
    />
    <svg aria-hidden="true"><path :d="wave" /></svg>
    <span class="name" :style="{ left: `${Math.max(timeline.inset, timeline.x(start)) + 4}px` }">{{ name }}</span>
  </div>
</template>

<style scoped>
.sound {
  position: relative;
  height: 24px;
  overflow: hidden;
  border-top: 1px solid var(--line);
}
.stretch {
  position: absolute;
  top: 1px;
  bottom: 1px;
  background: var(--sunk);
  border-radius: 3px;
  cursor: ew-resize;
  touch-action: none;
}
.picked .stretch {
  background: var(--picked);
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
path {
  fill: var(--verdigris);
  opacity: 0.75;
}
.silent path {
  opacity: 0.25;
}
.name {
  position: absolute;
  top: 4px;
  padding: 0 3px;
  font-size: 11px;
  border-radius: 2px;
  background: color-mix(in srgb, var(--card) 78%, transparent);
  pointer-events: none;
  white-space: nowrap;
}
</style>
