<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { dragging } from '@/composables/drag'
import { short } from '@/composables/format'
import { useStepping } from '@/composables/stepping'
import { core } from '@/core/client'
import type { EasingView, Id, Pin } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useTimeline } from '@/stores/timeline'
import ValueField from '@/components/shared/ValueField.vue'

/** The way from a pin to the next one, opened under its track: its handles to be dragged, its numbers to be typed. */
const props = defineProps<{ item: Id; property: string; pin: Pin; next: Pin }>()
const doc = useDocument()
const timeline = useTimeline()

const height = 112
const edge = 14
const named = computed(() => [{ item: props.item, property: props.property, frame: props.pin.frame }])

/** Where the handles of a cubic stand that goes about as a word does. */
const begins: Record<string, number[]> = { linear: [0.333, 0.333, 0.667, 0.667], smooth: [0.42, 0, 0.58, 1] }
/** The numbers while a handle is dragged, before they are the pin's. */
const held = ref<number[] | null>(null)
const easing = computed(() => (held.value ? `cubic ${held.value.join(' ')}` : props.pin.easing))
const shown = shallowRef<EasingView | null>(null)
watch(
  easing,
  async (text) => {
    const answer = await core.ask('easing', { easing: text, steps: 80 })
    if (answer.result && text === easing.value) shown.value = answer.result
  },
  { immediate: true },
)
const numbers = computed(() => shown.value?.numbers ?? [])
const cubic = computed<number[] | undefined>(
  () => held.value ?? (shown.value?.word === 'cubic' ? numbers.value.map((n) => n.value) : begins[shown.value?.word ?? '']),
)

/** What of the rise is in sight; it stays as it was while a handle is dragged. */
const sight = ref<[low: number, high: number]>([0, 1])
watch([shown, held], () => {
  if (held.value || !shown.value) return
  const at = cubic.value ?? []
  sight.value = [Math.min(-shown.value.under, at[1] ?? 0, at[3] ?? 0), Math.max(1 + shown.value.over, at[1] ?? 1, at[3] ?? 1)]
})
const falls = computed(() => Number(props.next.value) < Number(props.pin.value))
const x = (u: number): number => timeline.x(props.pin.frame + u * (props.next.frame - props.pin.frame))
function y(v: number): number {
  const [low, high] = sight.value
  const share = (v - low) / (high - low)
  return edge + (height - 2 * edge) * (falls.value ? share : 1 - share)
}
const path = computed(() =>
  (shown.value?.drawn ?? []).map((v, k, all) => `${k ? 'L' : 'M'}${x(k / (all.length - 1)).toFixed(1)} ${y(v).toFixed(1)}`).join(''),
)
const beyond = computed(() => {
  const over = Math.max(shown.value?.over ?? 0, shown.value?.under ?? 0)
  return over > 0.0005 ? `overshoots by ${short(Math.round(over * 1000) / 10)} %` : ''
})

const round = (v: number): number => Math.round(v * 1000) / 1000
const within = (list: number[]): number[] => list.map((v, k) => round(k % 2 ? Math.max(-10, Math.min(10, v)) : Math.max(0, Math.min(1, v))))
const text = (list: number[]): string => `cubic ${within(list).join(' ')}`

function grab(event: PointerEvent, k: 0 | 2): void {
  const from = cubic.value
  if (!from) return
  const span = x(1) - x(0)
  const rise = y(1) - y(0)
  dragging(
    event,
    (dx, dy) => {
      const to = [...from]
      to[k] = (from[k] ?? 0) + dx / span
      to[k + 1] = (from[k + 1] ?? 0) + dy / rise
      held.value = within(to)
      void doc.preview('ease pins', { pins: named.value, easing: text(held.value) })
    },
    async (moved) => {
      const to = held.value
      if (moved && to) await doc.gesture('ease pins', { pins: named.value, easing: text(to) })
      held.value = null
    },
    () => {
      held.value = null
      void doc.cancelPreview()
    },
  )
}

const stepping = useStepping(() => cubic.value ?? [])
function key(event: KeyboardEvent, k: 0 | 2): void {
  const by: [number, number] | undefined = (
    { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as Record<string, [number, number]>
  )[event.key]
  if (!by || event.altKey || event.ctrlKey) return
  event.preventDefault()
  event.stopPropagation()
  const size = event.shiftKey ? 0.1 : 0.01
  const to = [...stepping.from()]
  to[k] = (to[k] ?? 0) + by[0] * size
  to[k + 1] = (to[k + 1] ?? 0) + by[1] * size * (falls.value ? -1 : 1)
  void doc.gesture('ease pins', { pins: named.value, easing: text(stepping.to(within(to))) })
}

function set(k: number, value: number): void {
  const list = numbers.value.map((n, i) => (i === k ? value : n.value))
  void doc.gesture('ease pins', { pins: named.value, easing: `${shown.value?.word} ${list.join(' ')}` })
}
</script>

<template>
  <div class="numbers" role="group" :aria-label="`Shape from frame ${pin.frame} to ${next.frame}`">
    <span class="quiet">from {{ pin.frame }} to {{ next.frame }}</span>
    <label v-for="(n, k) in numbers" :key="n.name" class="quiet"
      >{{ n.name }}
      <ValueField
        :value="n.value"
        :label="n.name"
        :min="n.from"
        :max="n.to"
        :step="n.whole || n.to > 50 ? 1 : 0.01"
        @commit="(v) => set(k, v)"
    /></label>
    <span v-if="!numbers.length" class="quiet">{{
      shown?.word === 'hold' ? 'Choose an easing above.' : 'Drag a handle to shape it.'
    }}</span>
    <span v-if="beyond" class="beyond">{{ beyond }}</span>
  </div>
  <div class="strip">
    <svg aria-hidden="true">
      <path class="curve" :d="path" />
      <template v-if="cubic">
        <path class="arm" :d="`M${x(0)} ${y(0)}L${x(cubic[0] ?? 0)} ${y(cubic[1] ?? 0)}`" />
        <path class="arm" :d="`M${x(1)} ${y(1)}L${x(cubic[2] ?? 0)} ${y(cubic[3] ?? 0)}`" />
      </template>
    </svg>
    <button
      v-for="k in cubic ? ([0, 2] as const) : []"
      :key="k"
      class="plain knob"
      :aria-label="`${k ? 'Arriving' : 'Leaving'} handle: ${cubic?.[k]}, ${cubic?.[k + 1]}`"
      :style="{ transform: `translate(${x(cubic?.[k] ?? 0) - 12}px, ${y(cubic?.[k + 1] ?? 0) - 12}px)` }"
      @pointerdown.stop="grab($event, k)"
      @keydown="key($event, k)"
    >
      <i />
    </button>
  </div>
</template>

<style scoped>
.numbers {
  grid-column: 1;
  display: flex;
  flex-wrap: wrap;
  align-content: center;
  gap: 4px 12px;
  padding: 6px 12px;
  font-size: 12px;
  background: var(--sunk);
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.numbers label {
  display: flex;
  align-items: center;
  gap: 4px;
}
.beyond {
  color: var(--ink2);
}
.strip {
  grid-column: 2;
  position: relative;
  height: 112px;
  overflow: hidden;
  background: var(--sunk);
  border-bottom: 1px solid var(--line);
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
path {
  fill: none;
}
.curve {
  stroke: var(--brass);
  stroke-width: 1.8;
}
.arm {
  stroke: var(--verdigris);
  stroke-width: 1.2;
}
.knob {
  position: absolute;
  left: 0;
  top: 0;
  width: 24px;
  height: 24px;
  display: grid;
  place-items: center;
  touch-action: none;
  cursor: move;
}
.knob i {
  width: 10px;
  height: 10px;
  border-radius: 50%;
  border: 2px solid var(--verdigris);
  background: var(--card);
}
</style>
