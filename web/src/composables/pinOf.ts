import type { Pin, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'

const byFrame = new WeakMap<Pin[], Map<number, Pin>>()

/** Finds a pin by its property and frame, however many there are. */
export function usePinOf() {
  const doc = useDocument()
  return (p: Ref & { frame: number }): Pin | undefined => {
    const list = doc.state(p.item, p.property).pins
    if (!list) return undefined
    let found = byFrame.get(list)
    if (!found) byFrame.set(list, (found = new Map(list.map((pin) => [pin.frame, pin]))))
    return found.get(p.frame)
  }
}
