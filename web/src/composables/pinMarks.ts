import { useEventListener } from '@vueuse/core'
import { watchPostEffect, type Ref } from 'vue'
import type { Pin } from '@/core/types'

/** What the marks of a track are drawn from. */
export interface Marked {
  pins: Pin[]
  /** The name of the control. */
  name: string
  picked: ReadonlySet<number>
  /** Where a frame and a value lie, in pixels, and how many of them a frame has. */
  x: (frame: number) => number
  y: (value: number) => number
  perFrame: number
  /** They are being dragged: what they are called is told again where they are let go. */
  moving: boolean
}

/** A mark and what it shows. */
interface Mark {
  button: HTMLButtonElement
  frame: number
  easing: string
  name: string
  x: number
  y: number
  on: boolean
  dense: boolean
}

/** Half of a mark, in pixels; pins that are closer together than that are dots. */
const half = 6

function made(): Mark {
  const button = document.createElement('button')
  button.className = 'plain pin'
  button.dataset.keepsFocus = ''
  button.ariaPressed = 'false'
  button.tabIndex = -1
  return { button, frame: NaN, easing: '', name: '', x: NaN, y: NaN, on: false, dense: false }
}

const first = (pin: Pin): number => Number(Array.isArray(pin.value) ? pin.value[0] : pin.value)

/**
 * The marks of a track's pins, one button each, in their order. They are kept by hand: a step of a drag moves hundreds
 * of them, and of each only its place is another. Null leaves everything as it is.
 */
export function usePinMarks(track: Ref<HTMLElement | null>, what: () => Marked | null) {
  const marks: Mark[] = []
  let drawn: Pin[] = []
  /** The mark that Tab comes to: the track is one stop, and arrow keys go along its pins. */
  let stop: HTMLButtonElement | undefined
  function stopAt(button: HTMLButtonElement | undefined): void {
    if (stop === button) return
    if (stop) stop.tabIndex = -1
    if (button) button.tabIndex = 0
    stop = button
  }

  function draw({ pins, name, picked, x, y, perFrame, moving }: Marked, into: HTMLElement): void {
    while (marks.length > pins.length) marks.pop()?.button.remove()
    for (let k = 0; k < pins.length; k++) {
      const pin = pins[k] as Pin
      let mark = marks[k]
      if (!mark) {
        mark = marks[k] = made()
        into.append(mark.button)
      }
      const [atX, atY] = [Math.round(10 * x(pin.frame)) / 10, Math.round(10 * y(first(pin))) / 10]
      if (mark.x !== atX || mark.y !== atY) mark.button.style.transform = `translate(${atX - half}px, ${atY - half}px)`
      const told = moving && !!mark.name
      if (!told && (mark.frame !== pin.frame || mark.name !== name)) mark.button.ariaLabel = `Pin of ${name} at frame ${pin.frame}`
      if (!told && (mark.frame !== pin.frame || mark.easing !== pin.easing)) mark.button.title = `frame ${pin.frame} · ${pin.easing}`
      const on = picked.has(pin.frame)
      if (mark.on !== on) mark.button.ariaPressed = String(mark.button.classList.toggle('on', on))
      const room = Math.min(pin.frame - (pins[k - 1]?.frame ?? -Infinity), (pins[k + 1]?.frame ?? Infinity) - pin.frame)
      const dense = room * perFrame < half
      if (mark.dense !== dense) mark.button.classList.toggle('dense', dense)
      if (!told) Object.assign(mark, { frame: pin.frame, easing: pin.easing, name })
      mark.x = atX
      mark.y = atY
      mark.on = on
      mark.dense = dense
    }
    drawn = pins
    if (!stop?.isConnected) stopAt(marks[0]?.button)
  }

  watchPostEffect(() => {
    const now = what()
    if (now && track.value) draw(now, track.value)
  })

  /** Gives the keys to a mark some places further along; to the first or the last by Infinity. */
  function go(from: HTMLElement, by: number): void {
    const at = marks.findIndex((m) => m.button === from)
    const to = marks[Math.max(0, Math.min(marks.length - 1, at + by))]?.button
    stopAt(to)
    to?.focus()
  }
  useEventListener(track, 'focusin', ({ target }) => stopAt(target as HTMLButtonElement))

  /** The mark that something happens to, and its pin. */
  function of(event: Event): { mark: HTMLElement; pin: Pin } | undefined {
    const mark = (event.target as Element).closest<HTMLElement>('.pin')
    const pin = mark && drawn[marks.findIndex((m) => m.button === mark)]
    return mark && pin ? { mark, pin } : undefined
  }

  return { of, go }
}
