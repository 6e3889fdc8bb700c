import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection, type PickedPin } from '@/stores/selection'
import { useTimeline } from '@/stores/timeline'
import { dragging } from './drag'
import { hand } from './hand'
import { usePinCommands } from './pinCommands'
import { useSnapping } from './pinSnapping'

/** How values follow a hand that goes up and down: of which component, and by how much for a pixel and for a step by a key. */
export interface Lift {
  component?: string
  perPixel: number
  step: number
}

/** Pins under a pointer, and under keys: they are picked, and go along with all that are picked. */
export function usePinDragging() {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()
  const timeline = useTimeline()
  const commands = usePinCommands()
  const snapped = useSnapping()

  /** Takes a pin, of which on is the mark. */
  function press(event: PointerEvent, pin: PickedPin, lift?: Lift, on = event.currentTarget as HTMLElement): void {
    const there = selection.hasPin(pin)
    if (event.shiftKey)
      selection.pins = there
        ? selection.pins.filter((p) => !(p.item === pin.item && p.property === pin.property && p.frame === pin.frame))
        : [...selection.pins, pin]
    else if (!there) selection.pins = [pin]
    if (!selection.targets.some((t) => t.item === pin.item && t.property === pin.property))
      selection.pickControl({ item: pin.item, property: pin.property })
    const grabbed = selection.pins
    const frames = grabbed.map((p) => p.frame)
    const mine = [pin.frame, Math.min(...frames), Math.max(...frames)]
    const others = commands.others()
    let by = 0
    let rise = 0
    dragging(
      event,
      (dx, dy, e) => {
        const [along, up] = lift && e.shiftKey ? (Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, -dy]) : [dx, -dy]
        const next = snapped(mine, along, e.ctrlKey, others)
        const lifted = up * (lift?.perPixel ?? 0)
        if (next === by && lifted === rise) return
        by = next
        rise = lifted
        void doc.preview('move pins', { pins: grabbed, by, rise, component: lift?.component, copy: e.altKey, replace: true })
      },
      async (moved, e) => {
        if (!moved) return void (event.shiftKey || (selection.pins = [pin])) // one of many is picked alone
        if (!by && !rise) return void doc.cancelPreview()
        await commands.move(by, e.altKey, rise, lift?.component)
      },
      () => void doc.cancelPreview(),
      on,
    )
  }

  /** Enter picks a pin; one that was reached by keyboard is moved by the arrows, and what is picked with it. */
  async function key(event: KeyboardEvent, pin: PickedPin, lift?: Lift): Promise<void> {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
    const up = lift && { ArrowDown: -1, ArrowUp: 1 }[event.key]
    if (event.key !== 'Enter' && !((step || up) && hand.byKeyboard)) return
    event.preventDefault()
    event.stopPropagation()
    const there = commands.onTheWay() || selection.hasPin(pin)
    if (!step && !up) return void (selection.pins = event.shiftKey && !there ? [...selection.pins, pin] : [pin])
    const far = event.shiftKey ? 10 : 1
    const by = (step ?? 0) * far
    if (!there) selection.pins = [pin]
    if (selection.pins.some((p) => p.frame + by < 0 || p.frame + by >= playback.frames)) return
    await commands.move(by, false, (up ?? 0) * far * (lift?.step ?? 0), lift?.component)
  }

  /** The frame under the pointer, within the composition. */
  const frameOf = (event: MouseEvent): number =>
    playback.within(timeline.frameAt(event.clientX - (event.currentTarget as Element).getBoundingClientRect().left))

  return { press, key, frameOf, moving: commands.onTheWay }
}
