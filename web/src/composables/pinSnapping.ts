import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useTimeline } from '@/stores/timeline'

/** How near a frame has to be to draw what is dragged to it, in CSS pixels. */
const reach = 6

/** What is dragged in time goes to whole frames, and to the playhead, to markers and to given frames that are near. */
export function useSnapping() {
  const doc = useDocument()
  const playback = usePlayback()
  const timeline = useTimeline()

  /** By how many frames what lies at some frames goes, where it is dragged so many pixels; free: only to whole frames. */
  return (mine: number[], dx: number, free: boolean, others: number[]): number => {
    const by = dx / timeline.perFrame
    let best = Math.round(by)
    if (free) return best
    let near = reach / timeline.perFrame
    const marks = (doc.composition?.markers ?? []).map((m) => m.frame).filter((f) => !mine.includes(f))
    for (const to of [playback.frame, ...marks, ...others])
      for (const from of mine) {
        const off = Math.abs(to - from - by)
        if (off < near) [near, best] = [off, to - from]
      }
    return best
  }
}
