import { computed, ref, watch, type Ref } from 'vue'
import { useDocument } from '@/stores/document'
import type { Orbit, Sight } from '@/viewport/sight'

/** What is seen of the composition in a panel of a size, and the ways to change it. */
export function useSight(width: Ref<number>, height: Ref<number>) {
  const doc = useDocument()
  const margin = 28
  /** Set as soon as somebody pans or zooms; until then the composition fits the panel. */
  const chosen = ref<Sight | null>(null)
  const orbit = ref<Orbit | null>(null)

  const fitted = computed<Sight>(() => {
    const c = doc.composition
    if (!c) return { x: 0, y: 0, zoom: 1 }
    const zoom = Math.max(0.01, Math.min((width.value - 2 * margin) / c.width, (height.value - 2 * margin) / c.height))
    return { x: width.value / 2, y: height.value / 2, zoom }
  })
  /** The frame's corner stands on a whole pixel, so that at 1:1 every pixel is one of the screen. */
  const sight = computed<Sight>(() => {
    const { x, y, zoom } = chosen.value ?? fitted.value
    const [w, h] = [((doc.composition?.width ?? 0) * zoom) / 2, ((doc.composition?.height ?? 0) * zoom) / 2]
    return { x: Math.round(x - w) + w, y: Math.round(y - h) + h, zoom }
  })

  function fit(): void {
    chosen.value = null
    if (orbit.value) orbit.value = begin()
  }

  function begin(): Orbit {
    const c = doc.composition
    return { at: [0, 0, 0], distance: 1.7 * Math.max(c?.width ?? 1280, c?.height ?? 720), turn: 28, lift: 18 }
  }

  function lookAround(on: boolean): void {
    orbit.value = on ? begin() : null
  }

  function pan(dx: number, dy: number): void {
    const o = orbit.value
    if (!o) {
      chosen.value = { ...sight.value, x: sight.value.x + dx, y: sight.value.y + dy }
      return
    }
    const k = o.distance / height.value
    const turn = (o.turn * Math.PI) / 180
    orbit.value = { ...o, at: [o.at[0] - dx * k * Math.cos(turn), o.at[1] + dy * k, o.at[2] + dx * k * Math.sin(turn)] }
  }

  function swing(dx: number, dy: number): void {
    const o = orbit.value
    if (o) orbit.value = { ...o, turn: o.turn - dx * 0.4, lift: Math.max(-89, Math.min(89, o.lift + dy * 0.4)) }
  }

  /** Zooms by a factor; what lies under the point stays there. */
  function zoom(by: number, px: number, py: number): void {
    const o = orbit.value
    if (o) {
      orbit.value = { ...o, distance: Math.max(20, Math.min(100000, o.distance / by)) }
      return
    }
    const { x, y, zoom: was } = sight.value
    const now = Math.max(0.02, Math.min(32, was * by))
    chosen.value = { x: px - ((px - x) * now) / was, y: py - ((py - y) * now) / was, zoom: now }
  }

  watch(() => doc.compositionId, fit)
  return { sight, orbit, fit, lookAround, pan, swing, zoom }
}
