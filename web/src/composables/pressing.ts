import { ref, type Ref } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import type { Stage } from '@/viewport/stage'
import { dragging } from './drag'
import type { useHandling } from './handling'
import type { useSight } from './sight'
import type { Bounds } from './snapping'

/** What presses in the viewport do: pick and drag items, draw a frame around some, drag the view. */
export function usePressing(
  view: {
    stage: () => Stage | null
    /** Where an event is on the canvas. */
    at: (event: MouseEvent) => [number, number]
    /** The frame of the composition on the canvas. */
    frame: Ref<Bounds | null>
    handling: ReturnType<typeof useHandling>
  } & Pick<ReturnType<typeof useSight>, 'orbit' | 'pan' | 'swing'>,
): {
  /** The frame that is drawn to select what it touches. */
  marquee: Ref<Bounds | null>
  press: (event: PointerEvent) => void
  pressMark: (event: PointerEvent, id: Id) => void
  seize: (event: PointerEvent) => void
} {
  const doc = useDocument()
  const selection = useSelection()
  const workspace = useWorkspace()
  const { stage, at, handling, pan, swing } = view
  const marquee = ref<Bounds | null>(null)

  const more = (e: MouseEvent): boolean => e.shiftKey || e.ctrlKey || e.metaKey

  /** What is selected, and has a point of the canvas within its frame. */
  const selectedAt = (x: number, y: number): Id | undefined =>
    selection.ids.find((id) => !doc.items.get(id)?.locked && !doc.hidden.has(id) && handling.holds(id, x, y))

  /** What can be pressed at a point, the front first: what is drawn there, then the texts whose frames hold it. */
  function pressable(x: number, y: number): Id[] {
    const drawn = stage()?.under(x, y) ?? []
    const texts = doc.ofKind('text').filter((id) => !drawn.includes(id) && !doc.hidden.has(id) && handling.holds(id, x, y))
    return [...drawn, ...texts].filter((id) => !doc.items.get(id)?.locked)
  }

  function press(event: PointerEvent): void {
    if (event.button !== 0 || workspace.shaping) return // while vertices are shaped, a stray click leaves nothing
    const hits = pressable(...at(event))
    // What is selected is dragged by all of its frame, whatever lies on top of it; a click takes what lies on top.
    const hit = selectedAt(...at(event)) ?? hits.find((id) => selection.has(id)) ?? hits[0]
    if (hit && !more(event)) grab(event, hit, hits[0])
    else if (hits[0]) grab(event, hits[0])
    else if (view.orbit.value) slide(event)
    else select(event)
  }

  /**
   * Picks an item and drags what is selected; a click on one of several picks it alone. With Shift or Ctrl the item joins what is
   * selected at once, and leaves it by a click: dragged, it stays.
   */
  function grab(event: PointerEvent, id: Id, top = id): void {
    if (event.button !== 0) return
    if (more(event)) {
      const was = selection.has(id)
      if (!was) selection.pick(id, 'toggle')
      return handling.move(event, view.frame.value, was ? () => selection.pick(id, 'toggle') : undefined)
    }
    if (!selection.has(id)) selection.pick(id)
    handling.move(event, view.frame.value, () => selection.pick(top))
  }

  /** Presses the drawing of a null, a light, …: it lies on top of all else. */
  function pressMark(event: PointerEvent, id: Id): void {
    const within = selection.has(id) ? undefined : selectedAt(...at(event))
    grab(event, within && !more(event) ? within : id, id)
  }

  /** The middle and the right button drag the view, whatever lies under them. */
  function seize(event: PointerEvent): void {
    if (event.button !== 1 && event.button !== 2) return
    event.stopPropagation()
    slide(event)
  }

  /** Drags the view: pans it, or swings the free one round. */
  function slide(event: PointerEvent): void {
    event.preventDefault()
    let [x, y] = [event.clientX, event.clientY]
    const turn = event.button === 0
    const done = new AbortController()
    window.addEventListener(
      'pointermove',
      (e) => {
        ;(turn ? swing : pan)(e.clientX - x, e.clientY - y)
        ;[x, y] = [e.clientX, e.clientY]
      },
      { signal: done.signal },
    )
    window.addEventListener('pointerup', () => done.abort(), { signal: done.signal })
  }

  /** Selects what a frame that is drawn around it touches. */
  function select(event: PointerEvent): void {
    const [x, y] = at(event)
    const kept = more(event) ? selection.ids : []
    dragging(
      event,
      (dx, dy) => {
        const m = { left: Math.min(x, x + dx), right: Math.max(x, x + dx), top: Math.min(y, y + dy), bottom: Math.max(y, y + dy) }
        marquee.value = m
        const inside = doc.order.filter((id) => {
          const b = !doc.hidden.has(id) && !doc.items.get(id)?.locked && handling.bounds(id)
          return (
            b &&
            b.left < m.right &&
            b.right > m.left &&
            b.top < m.bottom &&
            b.bottom > m.top &&
            !(b.left < m.left && b.right > m.right && b.top < m.top && b.bottom > m.bottom)
          )
        })
        selection.pickAll([...kept, ...inside.filter((id) => !kept.includes(id))])
      },
      (moved) => {
        marquee.value = null
        if (!moved && !more(event)) selection.clear()
      },
      () => (marquee.value = null),
    )
  }

  return { marquee, press, pressMark, seize }
}
