import { useSelection, type PickedPin } from '@/stores/selection'
import { dragging } from './drag'

/** A frame that is drawn over pins from a press on: it picks what lies in it; with Shift, besides what is picked already. */
export function usePickingFrame() {
  const selection = useSelection()
  const named = (p: PickedPin): string => `${p.item}/${p.property}@${p.frame}`

  return (event: PointerEvent) => {
    const was = selection.pins
    const kept = event.shiftKey ? was : []
    const had = new Set(kept.map(named))
    return {
      /** Picks what was found in the frame as it is now. */
      pick(found: PickedPin[]): void {
        selection.pins = kept.length ? [...kept, ...found.filter((p) => !had.has(named(p)))] : found
      },
      /** Follows the pointer; a press that goes nowhere lets go of what was picked, Esc brings it back. */
      follow(move: (dx: number, dy: number, event: PointerEvent) => void, done: () => void, target?: HTMLElement): void {
        dragging(
          event,
          move,
          (moved) => {
            done()
            if (!moved && !event.shiftKey) selection.pins = []
          },
          () => {
            done()
            selection.pins = was
          },
          target,
        )
      },
    }
  }
}
