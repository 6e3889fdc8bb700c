import type { Directive } from 'vue'
import type { Jack } from '@/stores/wiring'

/** The jacks that are in sight, by their elements. */
const jacks = new WeakMap<Element, Jack>()

/** Makes an element the socket of a jack. */
export const vJack: Directive<Element, Jack> = {
  mounted: (el, { value }) => void jacks.set(el, value),
  updated: (el, { value }) => void jacks.set(el, value),
}

/** The jack whose socket an element is in. */
export const jackAt = (el: Element): Jack | undefined => {
  const socket = el.closest('[data-jack]')
  return socket ? jacks.get(socket) : undefined
}
