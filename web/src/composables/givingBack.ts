import { nextTick } from 'vue'
import { hand } from './hand'

/**
 * Gives the keys back when an editor that stands in the place of something is closed by a key: to that, or to what had them before. Who
 * works with the pointer goes on with the keys of the studio instead.
 */
export function useGivingBack(stood: () => HTMLElement | null): { began: () => void; back: () => void } {
  let before: Element | null = null
  return {
    began: () => (before = document.activeElement),
    back: () => {
      if (!hand.byKeyboard) return
      void nextTick(() => {
        const to = stood() ?? before
        if (to instanceof HTMLElement && to.isConnected) to.focus()
      })
    },
  }
}
