import type { Id, Point3 } from '@/core/types'

/** How far copies are set apart from what they are made of, in pixels of the composition, until they are moved. */
const usual: Point3 = [20, -20, 0]

let last: { copies: Id[]; by: Point3 } = { copies: [], by: usual }
const same = (a: Id[], b: Id[]): boolean => a.length === b.length && a.every((id) => b.includes(id))

/** The way from items to their next copies: as far as they lie from what they are copies of themselves. */
export const stepFrom = (items: Id[]): Point3 => (same(items, last.copies) ? last.by : usual)

/** Copies were made at a way from their models. */
export const stepped = (copies: Id[], by: Point3): void => void (last = { copies, by })

/** Items were moved: if they are the copies that were made last, the next ones go as far. */
export function moved(items: Id[], by: Point3): void {
  if (same(items, last.copies)) last.by = [last.by[0] + by[0], last.by[1] + by[1], last.by[2] + by[2]]
}
