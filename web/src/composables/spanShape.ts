import { computed, ref, shallowRef, watch } from 'vue'
import { core } from '@/core/client'
import type { EasingView, Id, Pin } from '@/core/types'
import { useDocument } from '@/stores/document'
import { dragging } from './drag'
import { useStepping } from './stepping'

/** The way from a pin to the next one. */
export interface Span {
  item: Id
  property: string
  pin: Pin
  next: Pin
}

/** Where the handles of a cubic stand that goes about as a word does. */
const begins: Record<string, number[]> = { linear: [0.333, 0.333, 0.667, 0.667], smooth: [0.42, 0, 0.58, 1] }

const round = (v: number): number => Math.round(v * 1000) / 1000
const within = (list: number[]): number[] => list.map((v, k) => round(k % 2 ? Math.max(-10, Math.min(10, v)) : Math.max(0, Math.min(1, v))))
const text = (list: number[]): string => `cubic ${list.join(' ')}`

/** How a span goes on, as what draws it and its handles need it; all in shares of its time and of its rise. */
export function useSpanShape(span: Span) {
  const doc = useDocument()
  const named = computed(() => [{ item: span.item, property: span.property, frame: span.pin.frame }])

  /** The numbers while a handle is dragged, before they are the pin's. */
  const held = ref<number[] | null>(null)
  const easing = computed(() => (held.value ? text(held.value) : span.pin.easing))
  const shown = shallowRef<EasingView | null>(null)
  watch(
    easing,
    async (wanted) => {
      const answer = await core.ask('easing', { easing: wanted, steps: 80 })
      if (answer.result && wanted === easing.value) shown.value = answer.result
    },
    { immediate: true },
  )
  const numbers = computed(() => shown.value?.numbers ?? [])
  /** The handles: where the leaving one stands, then the arriving one; none where it is no curve of that sort. */
  const cubic = computed<number[] | undefined>(
    () => held.value ?? (shown.value?.word === 'cubic' ? numbers.value.map((n) => n.value) : begins[shown.value?.word ?? '']),
  )

  /** Drags a handle; the span is so many pixels long and high. */
  function grab(event: PointerEvent, k: 0 | 2, long: number, high: number): void {
    const from = cubic.value
    if (!from) return
    dragging(
      event,
      (dx, dy) => {
        const to = [...from]
        to[k] = (from[k] ?? 0) + dx / long
        to[k + 1] = (from[k + 1] ?? 0) + (high ? dy / high : 0)
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
  /** Moves a handle by the arrows; where the span falls, up is back. */
  function key(event: KeyboardEvent, k: 0 | 2, falls: boolean): void {
    const by: [number, number] | undefined = (
      { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as Record<string, [number, number]>
    )[event.key]
    if (!by || event.altKey || event.ctrlKey) return
    event.preventDefault()
    event.stopPropagation()
    const size = event.shiftKey ? 0.1 : 0.01
    const to = [...stepping.from()]
    to[k] = (to[k] ?? 0) + by[0] * size
    to[k + 1] = (to[k + 1] ?? 0) + by[1] * size * (falls ? -1 : 1)
    void doc.gesture('ease pins', { pins: named.value, easing: text(stepping.to(within(to))) })
  }

  function set(k: number, value: number): void {
    const list = numbers.value.map((n, i) => (i === k ? value : n.value))
    void doc.gesture('ease pins', { pins: named.value, easing: `${shown.value?.word} ${list.join(' ')}` })
  }

  return { held, shown, numbers, cubic, grab, key, set }
}
