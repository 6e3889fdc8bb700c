/** The lists of before where the new ones hold the same numbers, so that nothing that depends on them is done again. */
export function steady(was: number[][] | undefined, now: number[][]): number[][] {
  if (!was || was.length !== now.length) return now
  const same = now.every((list, i) => list.length === was[i]?.length && list.every((x, k) => Object.is(x, was[i]?.[k])))
  return same ? was : now
}
