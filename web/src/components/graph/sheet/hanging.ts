/** A cable between two ports: it hangs a little, as it does everywhere. */
export function hanging(a: { x: number; y: number }, b: { x: number; y: number }): string {
  const reach = Math.max(40, Math.abs(b.x - a.x) / 2)
  const sag = Math.min(40, 12 + Math.abs(b.x - a.x) / 12)
  return `M${a.x} ${a.y}C${a.x + reach} ${a.y + sag} ${b.x - reach} ${b.y + sag} ${b.x} ${b.y}`
}
