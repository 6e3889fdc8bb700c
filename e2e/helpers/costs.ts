import type { Page } from '@playwright/test'

/** What figures of docs/benchmarks.md that need a browser are measured with. They are ratios of one run on one machine. */

/** The median of the drag before, of fewer links. */
let dragged = 0

export function summary(times: number[]): string {
  const sorted = [...times].sort((a, b) => a - b)
  const at = (share: number): string => (sorted[Math.floor(share * (sorted.length - 1))] ?? NaN).toFixed(1)
  return `median ${at(0.5)} ms, 95 % under ${at(0.95)} ms (${times.length} measured)`
}

/** Starts to watch the script of the page; the function that it returns ends that, and says how many milliseconds of it ran. */
export async function watchScript(page: Page): Promise<() => Promise<number>> {
  const session = await page.context().newCDPSession(page)
  await session.send('Profiler.enable')
  await session.send('Profiler.setSamplingInterval', { interval: 250 })
  await session.send('Profiler.start')
  return async () => {
    const { profile } = await session.send('Profiler.stop')
    await session.detach()
    // What the browser does by itself, and scripts of this program, are no part of it.
    const counts = new Set<number>()
    const nodes = new Map(profile.nodes.map((n) => [n.id, n]))
    const visit = (id: number, ours: boolean): void => {
      const n = nodes.get(id)
      if (!n) return
      const own = ours || n.callFrame.url.startsWith('http') || n.callFrame.functionName === '(garbage collector)'
      if (own) counts.add(id)
      for (const child of n.children ?? []) visit(child, own)
    }
    visit(profile.nodes[0]?.id ?? 0, false)
    const took = (profile.samples ?? []).map((id, k) => (counts.has(id) ? (profile.timeDeltas?.[k] ?? 0) : 0))
    return took.reduce((sum, t) => sum + t, 0) / 1000
  }
}

/** Drags a fader step by step and says what each step cost, the page's script, and calls of the worker, beside a drag before. */
export async function costs(page: Page, control: string, steps: number): Promise<string> {
  const calls = (): Promise<number> => page.evaluate(() => (window as unknown as { calls: { n: number } }).calls.n)
  const before = await calls()
  const script = await watchScript(page)
  const times = await drag(page, control, steps)
  const [ran, asked] = [await script(), (await calls()) - before]
  const median = [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? NaN
  const earlier = dragged
  dragged = median
  return `${summary(times)}${earlier ? `, ${(median / earlier).toFixed(2)} times that before` : ''}; ${(ran / steps).toFixed(1)} ms of the page's script and ${(asked / steps).toFixed(1)} calls of the worker a step`
}

/** Drags a fader step by step; each step is timed from its pointer event to the end of the drawing it caused. */
export async function drag(page: Page, control: string, steps: number): Promise<number[]> {
  const box = await page.locator(`[data-control="${control}"]`).getByRole('slider').boundingBox()
  if (!box) throw new Error(`no fader ${control}`)
  await page.evaluate(() => {
    const state = { began: 0, times: [] as number[] }
    Object.assign(window, { bench: state })
    window.addEventListener('pointermove', () => (state.began ||= performance.now()), { capture: true })
    new MutationObserver(() => {
      if (state.began) state.times.push(performance.now() - state.began)
      state.began = 0
    }).observe(document.querySelector('[data-testid=stage]') as Element, {
      attributeFilter: ['data-drawn'],
    })
  })
  const y = box.y + box.height / 2
  await page.mouse.move(box.x + 4, y)
  await page.mouse.down()
  for (let i = 1; i <= steps; i++) {
    const before = await page.getByTestId('stage').getAttribute('data-drawn')
    await page.mouse.move(box.x + 4 + ((box.width - 8) * i) / steps, y)
    await page
      .waitForFunction((was) => document.querySelector<HTMLElement>('[data-testid=stage]')?.dataset.drawn !== was, before, {
        timeout: 5000,
      })
      .catch(() => {})
  }
  await page.mouse.up()
  return page.evaluate(() => (window as unknown as { bench: { times: number[] } }).bench.times.slice(2))
}

/** Notes how long the worker takes to answer: from each message to it until the next one from it. */
export async function watchWorker(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const answers: number[] = []
    let asked = 0
    const calls = { n: 0 }
    Object.assign(window, { answers, calls })
    const post = Worker.prototype.postMessage
    Worker.prototype.postMessage = function (this: Worker, ...args: unknown[]) {
      asked = performance.now()
      calls.n++
      return Reflect.apply(post, this, args) as undefined
    }
    const listen = Worker.prototype.addEventListener
    Worker.prototype.addEventListener = function (this: Worker, ...args: unknown[]) {
      if (args[0] === 'message') Reflect.apply(listen, this, ['message', () => answers.push(performance.now() - asked)])
      return Reflect.apply(listen, this, args) as undefined
    }
  })
}

/** How long it takes from when the page asks the worker for a frame until it has what changed in it. */
export async function evaluation(page: Page, rounds: number): Promise<number[]> {
  await page.evaluate(() => ((window as unknown as { answers: number[] }).answers.length = 0))
  for (let f = 0; f < rounds; f++) {
    const before = await page.getByTestId('stage').getAttribute('data-drawn')
    await page.keyboard.press('ArrowRight')
    await page
      .waitForFunction((was) => document.querySelector<HTMLElement>('[data-testid=stage]')?.dataset.drawn !== was, before, {
        timeout: 2000,
      })
      .catch(() => {})
  }
  return page.evaluate(() => (window as unknown as { answers: number[] }).answers.slice(10))
}

/** How long the worker takes to work out the next frame, while nothing is drawn. */
export async function workerAlone(page: Page): Promise<string> {
  await page.waitForTimeout(2000) // what was drawn is done
  const times = (await page.workers()[0]?.evaluate(() => {
    const { wunderkammerFrame: work } = self as unknown as {
      wunderkammerFrame(frame: number): unknown
    }
    const timed = (rounds: number): number[] =>
      Array.from({ length: rounds }, (_, k) => {
        const began = performance.now()
        work(k)
        return performance.now() - began
      })
    timed(300) // until its code is at its best
    return timed(300)
  })) as number[]
  return summary(times)
}
