import { defineStore } from 'pinia'
import { ref } from 'vue'

/** Where the playhead is, and whether it runs. */
export const usePlayback = defineStore('playback', () => {
  const frame = ref(0)
  const playing = ref(false)
  const frames = ref(1)
  const rate = ref(25)
  /** The stretch that playing stays in; null for all of it. */
  const range = ref<[first: number, last: number] | null>(null)
  /** How fast time runs while it does; below 0, backwards. */
  const speed = ref(1)
  /** While it is on, whatever is changed is pinned at the playhead. */
  const autoPin = ref(false)
  /** Evaluates a frame and shows it; whoever has the project says how. */
  let show: (frame: number) => Promise<void> = () => Promise.resolve()
  /** How many frames of a second are shown while time runs, where they are fewer than there are: time is kept, and frames dropped. */
  const dropping = ref<number | null>(null)
  let drawn = 0 // frames that were shown
  let asked = false // a frame is on its way
  let again = false // and another was wanted meanwhile

  /** Asks for the frame under the playhead; what was wanted in between is passed over. */
  async function refresh(): Promise<void> {
    if (asked) {
      again = true
      return
    }
    asked = true
    do {
      again = false
      await show(frame.value)
      drawn++
    } while (again)
    asked = false
  }

  /** The nearest whole frame of the composition. */
  const within = (f: number): number => Math.max(0, Math.min(frames.value - 1, Math.round(f)))

  function seek(to: number): void {
    const held = within(to)
    if (held === frame.value) return
    frame.value = held
    void refresh()
  }

  /** Where the playhead is between frames, while it runs. */
  let position = (): number => frame.value
  const at = (): number => position()

  /** What is played: the range, or all of it. */
  const stretch = (): [first: number, last: number] => range.value ?? [0, frames.value - 1]

  /** Lets time run, over and over, or once to the end. */
  function play({ speed: fast = 1, once = false } = {}): void {
    if (playing.value) return
    speed.value = fast
    playing.value = true
    const [first, last] = stretch()
    if (fast > 0 && (frame.value >= last || frame.value < first)) seek(first)
    if (fast < 0 && (frame.value <= first || frame.value > last)) seek(last)
    const from = frame.value
    let began = 0
    let [counted, since] = [drawn, 0] // frames shown when they were counted last, and when
    /** Looks once a second whether frames are dropped: a tenth of them, or more. */
    const count = (now: number): void => {
      since ||= now
      if (now - since < 1000) return
      const shown = ((drawn - counted) * 1000) / (now - since)
      dropping.value = shown < 0.9 * rate.value * Math.abs(fast) && shown < 50 ? Math.round(shown) : null
      ;[counted, since] = [drawn, now]
    }
    const gone = (now: number): number => from - first + (began ? ((now - began) * rate.value * fast) / 1000 : 0)
    const round = (far: number): number => {
      const n = last - first + 1
      return ((far % n) + n) % n
    }
    position = () => {
      const far = gone(performance.now())
      return Math.min(last, first + (once ? far : round(far)))
    }
    const tick = (now: number): void => {
      if (!playing.value) return
      began ||= now
      count(now)
      if (once && first + gone(now) >= last) {
        seek(last)
        return pause()
      }
      const at = first + round(Math.floor(gone(now)))
      if (at !== frame.value) {
        frame.value = at
        if (!asked) void refresh()
      }
      requestAnimationFrame(tick)
    }
    requestAnimationFrame(tick)
  }

  function pause(): void {
    playing.value = false
    dropping.value = null
    const stands = at()
    position = () => (Math.round(stands) === frame.value || Math.floor(stands) === frame.value ? stands : frame.value)
  }

  /** Runs forwards or backwards; once more the same way, twice as fast. */
  function run(way: 1 | -1): void {
    const same = playing.value && speed.value * way > 0
    const fast = same ? Math.min(8, 2 * Math.abs(speed.value)) : 1
    if (playing.value) pause()
    play({ speed: way * fast })
  }

  /** Sets the stretch that playing stays in, whichever end comes first; one of a single frame is none. */
  function stay(a: number, b: number): void {
    const [first, last] = [Math.min(within(a), within(b)), Math.max(within(a), within(b))]
    range.value = last > first ? [first, last] : null
  }

  function limit(length: number, perSecond: number): void {
    frames.value = length
    rate.value = perSecond
    if (frame.value > length - 1) frame.value = length - 1
    if (range.value && range.value[1] > length - 1) stay(...range.value)
  }

  const shownBy = (how: typeof show): void => void (show = how)

  return {
    frame,
    at,
    stretch,
    within,
    range,
    stay,
    playing,
    speed,
    dropping,
    autoPin,
    shownBy,
    frames,
    rate,
    seek,
    play,
    pause,
    run,
    limit,
    toggle: () => (playing.value ? pause() : play()),
  }
})
