const edge = 16 // pixels from the lower edge of what scrolls
const most = 1200 // pixels a second

/** Scrolls a box up or down while a pointer is held at its lower edge, or over the head that stays at its upper one, and tells of it. */
export function edgeScroll(box: HTMLElement, head: number, scrolled: () => void): { at: (y: number) => void; end: () => void } {
  let speed = 0
  let going = 0
  let last = 0
  const step = (now: number): void => {
    const before = box.scrollTop
    box.scrollTop += (speed * Math.min(250, now - (last || now))) / 1000
    last = now
    if (box.scrollTop !== before) scrolled()
    going = speed ? requestAnimationFrame(step) : 0
  }
  return {
    at(y) {
      const { top, bottom } = box.getBoundingClientRect()
      const near = y < top + head ? y - (top + head) : y > bottom - edge ? y - (bottom - edge) : 0
      speed = Math.max(-most, Math.min(most, near * 50))
      if (!speed || going) return
      last = 0
      going = requestAnimationFrame(step)
    },
    end() {
      speed = 0
      cancelAnimationFrame(going)
    },
  }
}
