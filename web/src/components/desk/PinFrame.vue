<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { dragging } from '@/composables/drag'
import { edgeScroll } from '@/composables/edgeScroll'
import { usePickingFrame } from '@/composables/pickingFrame'
import { usePinCommands } from '@/composables/pinCommands'
import { useDocument } from '@/stores/document'
import { useSelection, type PickedPin } from '@/stores/selection'
import { useTimeline } from '@/stores/timeline'

/**
 * Over the tracks: the frame that a drag draws to pick what lies in it, and the one around what is picked, whose ends stretch it. It lies
 * in the body of the Desk, whose tracks it looks for.
 */
const props = defineProps<{ body: HTMLElement }>()
const doc = useDocument()
const selection = useSelection()
const timeline = useTimeline()
const pins = usePinCommands()
const picking = usePickingFrame()

interface Track {
  item: string
  property: string
  top: number
  bottom: number
}
const column = (): number => (props.body.querySelector('[data-track]') as HTMLElement | null)?.offsetLeft ?? 0
/** The tracks as they lie in the body. */
const tracks = (): Track[] =>
  [...props.body.querySelectorAll<HTMLElement>('[data-track]')].map((t) => ({
    item: t.dataset.item ?? '',
    property: t.dataset.property ?? '',
    top: t.offsetTop,
    bottom: t.offsetTop + t.offsetHeight,
  }))

const box = ref<{ left: number; top: number; width: number; height: number } | null>(null)

/** Draws a frame from where the pointer is; with Shift, what lies in it comes to what is picked already. */
function draw(event: PointerEvent): void {
  const bounds = props.body.getBoundingClientRect()
  const from = { x: event.clientX - bounds.left, y: event.clientY - bounds.top + props.body.scrollTop }
  const all = tracks().map((t) => ({ ...t, pins: doc.state(t.item, t.property).pins ?? [] })) // they stay as they are meanwhile
  const left = column()
  const frameAt = (x: number): number => (x - left - timeline.inset) / timeline.perFrame + timeline.from
  const frame = picking(event)
  let [dx, y] = [0, from.y - props.body.scrollTop] // how far it went across, and where it is in sight
  const take = (): void => {
    const dy = y + props.body.scrollTop - from.y
    const b = { left: Math.min(from.x, from.x + dx), top: Math.min(from.y, from.y + dy), width: Math.abs(dx), height: Math.abs(dy) }
    box.value = b
    const found: PickedPin[] = []
    const [early, late] = [frameAt(b.left), frameAt(b.left + b.width)]
    for (const { item, property, top, bottom, pins } of all) {
      if (bottom < b.top || top > b.top + b.height) continue
      for (const { frame } of pins) if (frame >= early && frame <= late) found.push({ item, property, frame })
    }
    frame.pick(found)
  }
  const head = props.body.querySelector<HTMLElement>('[data-ruler]')?.offsetHeight ?? 0
  const scroll = edgeScroll(props.body, head, take)
  const done = (): void => {
    scroll.end()
    box.value = null
    void nextTick(measure)
  }
  frame.follow(
    (by, _dy, e) => {
      dx = by
      y = e.clientY - bounds.top
      take()
      scroll.at(e.clientY)
    },
    done,
    event.target as HTMLElement,
  )
}
defineExpose({ draw })

const around = ref<{ top: number; height: number } | null>(null)
function measure(): void {
  if (box.value) return // once it is drawn
  const keys = new Set(selection.pins.map((p) => `${p.item}/${p.property}`))
  const rows = keys.size && pins.last.value > pins.first.value ? tracks().filter((t) => keys.has(`${t.item}/${t.property}`)) : []
  const top = Math.min(...rows.map((t) => t.top))
  around.value = rows.length ? { top, height: Math.max(...rows.map((t) => t.bottom)) - top } : null
}
onMounted(measure)
watch([() => selection.pins, () => doc.layout, () => timeline.width], measure, { flush: 'post' })

/** While an end is dragged: the first and the last frame that the pins would have. */
const stretch = ref<[first: number, last: number] | null>(null)
const ends = computed(() => stretch.value ?? [pins.first.value, pins.last.value])
const sides = computed(() => {
  const [a, b] = ends.value.map((f) => column() + timeline.x(f))
  return { left: Math.min(a ?? 0, b ?? 0) - 8, width: Math.abs((b ?? 0) - (a ?? 0)) + 16 }
})

function grip(event: PointerEvent, end: 'first' | 'last'): void {
  const [first, last] = [pins.first.value, pins.last.value]
  const [stays, from] = end === 'first' ? [last, first] : [first, last]
  const named = selection.pins
  let to = from
  dragging(
    event,
    (dx) => {
      const next = from + Math.round(dx / timeline.perFrame)
      if (next === to || next === stays) return
      to = next
      stretch.value = end === 'first' ? [to, last] : [first, to]
      void doc.preview('stretch pins', { pins: named, stays, from, to, replace: true })
    },
    async (moved) => {
      stretch.value = null
      if (!moved || to === from) return void doc.cancelPreview()
      await pins.stretch(stays, from, to)
    },
    () => {
      stretch.value = null
      void doc.cancelPreview()
    },
  )
}
</script>

<template>
  <div
    v-if="box"
    class="box"
    aria-hidden="true"
    :style="{ left: box.left + 'px', top: box.top + 'px', width: box.width + 'px', height: box.height + 'px' }"
  />
  <div
    v-if="around"
    class="around"
    aria-hidden="true"
    :style="{ left: sides.left + 'px', width: sides.width + 'px', top: around.top + 'px', height: around.height + 'px' }"
  >
    <i class="end" title="Drag to stretch" data-end="first" @pointerdown.stop="grip($event, 'first')" />
    <i class="end last" title="Drag to stretch" data-end="last" @pointerdown.stop="grip($event, 'last')" />
  </div>
</template>

<style scoped>
.box,
.around {
  position: absolute;
  border: 1px dashed var(--verdigris);
  pointer-events: none;
  z-index: 2;
}
.box {
  background: var(--verdigrisSoft);
  opacity: 0.6;
}
.around {
  border-radius: 3px;
}
.end {
  position: absolute;
  top: -1px;
  bottom: -1px;
  left: -4px;
  width: 8px;
  cursor: ew-resize;
  pointer-events: auto;
  touch-action: none;
}
.end::after {
  content: '';
  position: absolute;
  inset: 0 3px;
  background: var(--verdigris);
}
.end.last {
  left: auto;
  right: -4px;
}
</style>
