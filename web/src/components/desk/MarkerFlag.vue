<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'
import { dragging } from '@/composables/drag'
import { hand } from '@/composables/hand'
import { useSnapping } from '@/composables/pinSnapping'
import { useTurns } from '@/composables/turns'
import type { Marker } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useTimeline } from '@/stores/timeline'
import EditableName from '@/components/shared/EditableName.vue'

/** A named place in time: a press goes there, a drag moves it. Its name has so much room, in pixels. */
const props = defineProps<{ marker: Marker; room: number }>()
const doc = useDocument()
const playback = usePlayback()
const timeline = useTimeline()
const snapped = useSnapping()
const inTurn = useTurns()
const flag = useTemplateRef<HTMLButtonElement>('flag')
const naming = useTemplateRef<InstanceType<typeof EditableName>>('naming')

/** Where it is dragged to. */
const held = ref<number | null>(null)
const set = (what: Partial<Marker>) => doc.operations({ op: 'marker.set', value: { ...props.marker, ...what } })

function press(event: PointerEvent): void {
  const { frame } = props.marker
  dragging(
    event,
    (dx, _dy, e) => (held.value = playback.within(frame + snapped([frame], dx, e.ctrlKey, []))),
    async (moved) => {
      const to = held.value
      if (!moved) playback.seek(frame)
      else if (to !== null && to !== frame) await set({ frame: to })
      held.value = null
    },
    () => (held.value = null),
    flag.value ?? undefined,
  )
}

const move = (by: number) =>
  inTurn(async () => {
    await set({ frame: playback.within(props.marker.frame + by) })
    await nextTick() // it may stand elsewhere among the others now
    flag.value?.focus()
  })
function remove(): void {
  void doc.operations({ op: 'marker.remove', marker: props.marker.id })
  flag.value?.closest('[data-ruler]')?.querySelector<HTMLElement>('[role=slider]')?.focus() // keys go on there
}

function key(event: KeyboardEvent): void {
  const far = event.shiftKey ? 10 : 1
  const acts: Record<string, () => unknown> = {
    ArrowLeft: () => move(-far),
    ArrowRight: () => move(far),
    Enter: () => playback.seek(props.marker.frame),
    F2: () => naming.value?.edit(),
    Delete: remove,
    Backspace: remove,
  }
  if (!acts[event.key] || (event.key.startsWith('Arrow') && !hand.byKeyboard)) return
  event.preventDefault()
  event.stopPropagation()
  acts[event.key]?.()
}
</script>

<template>
  <span
    class="marker"
    :style="{ transform: `translateX(${timeline.x(held ?? marker.frame) - 12}px)` }"
    :title="`${marker.name} · frame ${held ?? marker.frame} (double click to rename, Del to remove)`"
    @pointerdown.stop="press"
    @dblclick.stop="naming?.edit()"
  >
    <button
      ref="flag"
      class="plain flag"
      data-keeps-focus
      :aria-label="`${marker.name}, marker at frame ${held ?? marker.frame}`"
      @keydown="key"
    >
      <svg viewBox="0 0 8 12" aria-hidden="true"><path d="M1 12V1l6 3l-6 3" /></svg>
    </button>
    <span class="name" :style="{ maxWidth: `${Math.max(0, room - 24)}px` }">
      <EditableName ref="naming" bare label="Marker" :name="marker.name" @rename="(name) => set({ name })" />
    </span>
  </span>
</template>

<style scoped>
.marker {
  position: absolute;
  left: 0;
  top: 0;
  height: 24px;
  display: flex;
  align-items: center;
  font-size: 11px;
  color: var(--verdigris);
  cursor: ew-resize;
  touch-action: none;
  white-space: nowrap;
}
.flag {
  width: 24px;
  height: 24px;
  flex: none;
  cursor: inherit;
}
.flag svg {
  width: 8px;
  height: 12px;
  display: block;
  margin-left: 11px;
}
.flag path {
  fill: var(--verdigris);
  stroke: var(--verdigris);
}
.name {
  overflow: clip visible;
  text-overflow: ellipsis;
  margin-left: -2px;
}
.name:focus-within {
  max-width: none !important;
  min-width: 120px;
  z-index: 1;
  background: var(--card);
}
</style>
