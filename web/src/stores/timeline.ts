import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { asking } from './asking'
import { usePlayback } from './playback'

/** The stretch of time that the tracks show, and where frames lie on the screen. */
export const useTimeline = defineStore('timeline', () => {
  const playback = usePlayback()
  const width = ref(600) // pixels of a track
  const from = ref(0)
  const frames = ref(300) // how many are in sight
  const inset = 10 // so that a pin at either end is whole

  watch(
    () => playback.frames,
    (all) => {
      from.value = 0
      frames.value = all
    },
    { immediate: true },
  )

  const perFrame = computed(() => (width.value - 2 * inset) / Math.max(1, frames.value))
  const x = (frame: number): number => inset + (frame - from.value) * perFrame.value
  const frameAt = (px: number): number => Math.round((px - inset) / perFrame.value + from.value)

  function hold(start: number, count: number): void {
    frames.value = Math.max(10, Math.min(playback.frames, count))
    from.value = Math.max(0, Math.min(playback.frames - frames.value, start))
  }

  /** Ctrl and the wheel zoom to the pointer, Shift and the wheel go along. */
  function wheel(event: WheelEvent, px: number): void {
    const along = event.deltaX || (event.shiftKey ? event.deltaY : 0)
    if (event.ctrlKey) {
      event.preventDefault()
      const share = (px - inset) / Math.max(1, width.value - 2 * inset)
      const at = from.value + share * frames.value
      const count = frames.value * Math.exp(event.deltaY / 400)
      hold(at - share * Math.max(10, Math.min(playback.frames, count)), count)
    } else if (along) {
      event.preventDefault()
      hold(from.value + along / perFrame.value / 2, frames.value)
    }
  }

  return { width, from, frames, perFrame, inset, ...asking({ x, frameAt }), wheel }
})
