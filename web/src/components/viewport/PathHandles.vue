<script setup lang="ts">
import { computed, nextTick, shallowRef, useTemplateRef, watch } from 'vue'
import { coalesced } from '@/composables/coalesced'
import { dragging } from '@/composables/drag'
import { hand } from '@/composables/hand'
import { lineThrough, usePlaces, type Spot } from '@/composables/places'
import { useTurns } from '@/composables/turns'
import { core } from '@/core/client'
import type { Gestures, PathPin, PathView, Point3, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection, type PickedPin } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import type { Stage } from '@/viewport/stage'

/** The way of what is selected through its pins: the pins, and the handles of its path, to be dragged or moved by the arrows. */
const props = defineProps<{ stage: Stage; drawn: number }>()
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const { onCanvas } = usePlaces(() => props.stage)
const root = useTemplateRef<HTMLElement>('root')

type Part = 'place' | 'lead' | 'arrive'

/** The positions of what is selected, and the control that is picked, if it is a point. */
const refs = computed<Ref[]>(() => {
  if (!workspace.paths || selection.ids.length > 8) return []
  const c = selection.control
  const point = c && doc.spec(c.item, c.property)?.type.startsWith('point') ? [{ item: c.item, property: c.property }] : []
  return [...selection.ids.map((item) => ({ item, property: 'position' })), ...point].filter(
    (r) => (doc.state(r.item, r.property).pins?.length ?? 0) > 1,
  )
})
const ways = shallowRef<{ ref: Ref; path: PathView }[]>([])
const read = coalesced(async () => {
  const asked = refs.value
  const all = await Promise.all(asked.map((r) => core.ask('path', r)))
  ways.value = asked.flatMap((ref, k) => (all[k]?.result?.pins.length ? [{ ref, path: all[k].result }] : []))
})
watch([refs, () => props.drawn], read, { immediate: true })

/** Handles are shown of pins that are picked, or where none is of all; of very many they would only be in the way. */
const most = 24
interface Knot {
  key: string
  label: string
  part: Part
  at: Spot
  place: Point3
  /** Where its pin is. */
  home: Point3
  pin: PickedPin
  picked: boolean
}
const keyOf = (pin: PickedPin, part: Part): string => `${pin.item}/${pin.property}@${pin.frame} ${part}`
const drawn = computed(() => {
  void props.drawn
  return ways.value.map(({ ref, path }) => {
    const picked = path.pins.filter((p) => selection.hasPin({ ...ref, frame: p.frame }))
    const handled = new Set(picked.length ? picked : path.pins)
    const name = doc.nameOf(ref)
    const arms: string[] = []
    const knots: Knot[] = []
    const put = (pin: PathPin, part: Part, place: Point3): void => {
      const at = onCanvas(place)
      const mine = { item: ref.item, property: ref.property, frame: pin.frame }
      const label =
        part === 'place'
          ? `Pin of ${name} at frame ${pin.frame}`
          : `Handle ${part === 'lead' ? 'leaving' : 'arriving at'} ${name} at frame ${pin.frame}`
      if (at) knots.push({ key: keyOf(mine, part), label, part, at, place, home: pin.place, pin: mine, picked: selection.hasPin(mine) })
    }
    for (const pin of path.pins) {
      put(pin, 'place', pin.place)
      if (handled.size > most || !handled.has(pin)) continue
      for (const part of ['lead', 'arrive'] as const) {
        const place = pin[part]
        if (!place) continue
        put(pin, part, place)
        arms.push(lineThrough([onCanvas(pin.place), onCanvas(place)]))
      }
    }
    // That of an item is drawn already, with dots that tell its speed; beneath them it follows the hand at once.
    return {
      key: `${ref.item}/${ref.property}`,
      alone: ref.property !== 'position',
      line: lineThrough(path.line.map(onCanvas)),
      arms,
      knots,
    }
  })
})

const shape = (k: Knot, at: Point3, alone: boolean, part: Gestures['shape path']['part'] = k.part) => ({
  pin: k.pin,
  part,
  to: null,
  at,
  alone,
})

function press(event: PointerEvent, k: Knot): void {
  if (!k.picked) selection.pins = [k.pin]
  let to = k.place
  let alone = false
  const part = k.part === 'place' && event.altKey ? 'both' : k.part
  dragging(
    event,
    (dx, dy, e) => {
      const by = props.stage.sights.way(dx, dy, k.place)
      to = [k.place[0] + by[0], k.place[1] + by[1], k.place[2] + by[2]]
      alone = e.altKey
      void doc.preview('shape path', shape(k, to, alone, part))
    },
    (moved) => moved && void doc.gesture('shape path', shape(k, to, alone, part)),
    () => void doc.cancelPreview(),
  )
}

/** Gives the keys to a pin or a handle, when it is drawn; not where they are somewhere else by now. */
async function give(key: string): Promise<void> {
  await read()
  await nextTick()
  const at = document.activeElement
  if (at && at !== document.body && !root.value?.contains(at)) return
  root.value?.querySelector<HTMLElement>(`[data-knot="${CSS.escape(key)}"]`)?.focus()
}

/** Steps wait for those before them, and begin where these led to: quick presses add up. */
const inTurn = useTurns()
function nudge(k: Knot, x: number, y: number, alone: boolean): void {
  void inTurn(async () => {
    const { result } = await core.ask('path', { item: k.pin.item, property: k.pin.property })
    const pin = result?.pins.find((p) => p.frame === k.pin.frame)
    const from = pin?.[k.part] ?? k.place
    await doc.gesture('shape path', shape(k, [from[0] + x, from[1] + y, from[2]], alone))
    await give(k.key)
  })
}

/** Takes a handle away, so that its span goes straight from there; or the pin. */
async function remove(k: Knot): Promise<void> {
  if (k.part === 'place') await doc.gesture('drop pins', { pins: [k.pin] })
  else await doc.gesture('shape path', shape(k, k.home, true))
  await give(k.part === 'place' ? (drawn.value[0]?.knots[0]?.key ?? '') : keyOf(k.pin, 'place'))
}

function key(event: KeyboardEvent, k: Knot): void {
  const far = event.shiftKey ? 10 : 1
  const acts: Record<string, () => void> = {
    ArrowLeft: () => nudge(k, -far, 0, event.altKey),
    ArrowRight: () => nudge(k, far, 0, event.altKey),
    ArrowDown: () => nudge(k, 0, -far, event.altKey),
    ArrowUp: () => nudge(k, 0, far, event.altKey),
    Enter: () => (selection.pins = [k.pin]),
    Delete: () => void remove(k),
    Backspace: () => void remove(k),
  }
  if (!acts[event.key] || (event.key.startsWith('Arrow') && !hand.byKeyboard)) return // else they are for time
  event.preventDefault()
  event.stopPropagation()
  acts[event.key]?.()
}
</script>

<template>
  <div ref="root" class="paths">
    <svg aria-hidden="true">
      <g v-for="d in drawn" :key="d.key" data-testid="path">
        <path v-if="d.alone" class="way dark" :d="d.line" />
        <path class="way" :d="d.line" />
        <path v-for="(a, n) in d.arms" :key="n" class="arm" :d="a" />
      </g>
    </svg>
    <template v-for="d in drawn" :key="d.key">
      <button
        v-for="k in d.knots"
        :key="k.key"
        class="plain knot"
        :class="[k.part, { on: k.picked }]"
        :data-knot="k.key"
        data-keeps-focus
        :style="`transform: translate(${k.at[0].toFixed(1)}px, ${k.at[1].toFixed(1)}px)`"
        :aria-label="k.label"
        :title="
          k.part === 'place'
            ? `frame ${k.pin.frame} · with Alt, pull its handles out`
            : 'Drag; with Alt, the other handle stays · Del takes it away'
        "
        @pointerdown.stop="press($event, k)"
        @keydown="key($event, k)"
      />
    </template>
  </div>
</template>

<style scoped>
.paths,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: hidden;
  pointer-events: none;
}
.way {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.4;
}
.way.dark {
  stroke: var(--card);
  stroke-width: 3.5;
  opacity: 0.5;
}
.arm {
  fill: none;
  stroke: var(--verdigris);
  stroke-width: 1.2;
}
.knot {
  position: absolute;
  left: -12px;
  top: -12px;
  width: 24px;
  height: 24px;
  cursor: move;
  pointer-events: auto;
  touch-action: none;
}
.knot::after {
  content: '';
  position: absolute;
  inset: 8px;
  background: var(--card);
  border: 1.6px solid var(--brass);
  border-radius: 50%;
}
.knot.on::after {
  background: var(--brass);
}
.knot:not(.place)::after {
  inset: 8.5px;
  border-color: var(--verdigris);
  border-radius: 1px;
  rotate: 45deg;
}
</style>
