/** The beginnings of a line's pieces, as far as their x: the same for every line of a stretch of time. */
let starts: string[] = []
let startsOf = ''

function startsFor(count: number, from: number, across: number): string[] {
  const what = `${count} ${from} ${across}`
  if (what !== startsOf) {
    startsOf = what
    starts = Array.from({ length: count }, (_, i) => `${i ? 'L' : 'M'}${Math.round(10 * (from + i * across))} `)
  }
  return starts
}

/** One component of samples, as many pixels apart as across says, as a line in tenths of a pixel. */
export function trackLine(samples: number[], parts: number, k: number, from: number, across: number, y: (value: number) => number): string {
  const all = startsFor(samples.length / parts, from, across)
  let d = ''
  for (let i = 0; i < all.length; i++) d += (all[i] as string) + Math.round(10 * y(samples[i * parts + k] as number))
  return d
}
