import { hand } from './hand'

/**
 * Follows a pointer from its press to its release. Moves are told as the distance from the press;
 * Esc, or a gesture the system takes over, ends the drag without a release.
 */
export function dragging(
  event: PointerEvent,
  move: (dx: number, dy: number, event: PointerEvent) => void,
  release?: (moved: boolean, event: PointerEvent) => void,
  cancel?: () => void,
  target = event.currentTarget as HTMLElement,
): void {
  if (event.button !== 0) return
  event.preventDefault()
  target.focus({ preventScroll: true })
  const { clientX, clientY, pointerId } = event
  let moved = false
  const done = new AbortController()
  const { signal } = done
  // The pointer stays with what was pressed, for its cursor; what is listened to is the window,
  // since the element may be drawn anew while it is dragged.
  target.setPointerCapture(pointerId)
  const abandon = (): void => {
    done.abort()
    cancel?.()
  }
  window.addEventListener(
    'pointermove',
    (e) => {
      const dx = e.clientX - clientX
      const dy = e.clientY - clientY
      if (!moved && Math.hypot(dx, dy) < 2) return
      moved = true
      move(dx, dy, e)
    },
    { signal },
  )
  window.addEventListener(
    'pointerup',
    (e) => {
      done.abort()
      // What was reached by the pointer leaves the keys to time; what can be removed keeps them.
      if (!hand.byKeyboard && !target.closest('[data-keeps-focus]')) target.blur()
      release?.(moved, e)
    },
    { signal },
  )
  window.addEventListener('pointercancel', abandon, { signal })
  window.addEventListener(
    'keydown',
    (e) => {
      if (e.key !== 'Escape') return
      e.stopPropagation()
      abandon()
    },
    { signal, capture: true },
  )
}
