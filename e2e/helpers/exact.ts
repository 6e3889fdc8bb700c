import type { Page } from '@playwright/test'
import { run } from './server'

/** Reads what the command line prints of a file, frame by frame: every number of every property, and texts as they are. */
export function printed(file: string, last: number): (number | string)[][] {
  const frames: (number | string)[][] = []
  for (const line of run('eval', file, '--frame', '0', '--to', String(last)).trimEnd().split('\n')) {
    if (/^frame \d+$/.test(line)) {
      frames.push([])
      continue
    }
    const out = frames[frames.length - 1] as (number | string)[]
    const value = line.slice(line.indexOf('\t') + 1)
    if (value.startsWith('"')) out.push(JSON.parse(value) as string)
    else for (const x of value.replace(/[[\]]/g, '').split(', ')) out.push(Number(x))
  }
  return frames
}

/** Says where the browser has other bits at a frame; nothing where it has the same. */
export async function difference(page: Page, frame: number, expected: (number | string)[]): Promise<string> {
  const numbers = Buffer.from(Float64Array.from(expected, (want) => (typeof want === 'string' ? NaN : want)).buffer).toString('base64')
  const texts = expected.flatMap((want, at) => (typeof want === 'string' ? [{ at, want }] : []))
  return page.evaluate(
    async (given) => {
      const want = new Float64Array(Uint8Array.from(atob(given.numbers), (c) => c.charCodeAt(0)).buffer)
      const all = await window.wunderkammer.values(given.frame)
      const slots = window.wunderkammer.properties().flatMap((p) => Array.from({ length: p.size }, (_, c) => p.slot + c))
      if (slots.length !== want.length) return `the browser has ${slots.length} numbers, the command line ${want.length}`
      const values = slots.map((s) => all[s] as number)
      const written = new Map(given.texts.map((t) => [t.at, t.want]))
      const at = want.findIndex((x, i) =>
        written.has(i) ? window.wunderkammer.texts()[values[i] as number] !== written.get(i) : !Object.is(values[i], x),
      )
      return at < 0 ? '' : `number ${at}: the browser has ${values[at]}, the command line ${written.get(at) ?? want[at]}`
    },
    { frame, numbers, texts },
  )
}
