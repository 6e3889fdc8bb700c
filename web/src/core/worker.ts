import '@/generated/wasm_exec.js'
import * as Comlink from 'comlink'
import wasmUrl from '@/generated/core.wasm?url'
import type { CoreService } from './client'
import type { Frame } from './types'

interface GoRuntime {
  importObject: WebAssembly.Imports
  run(instance: WebAssembly.Instance): Promise<void>
}

interface CoreGlobals {
  Go: new () => GoRuntime
  wunderkammerCore(method: string, argument: string): string
  wunderkammerOpen(document: Uint8Array, unsent: string): string
  wunderkammerHear(channels: Float32Array[], rate: number): string
  wunderkammerFrame(frame: number): FrameAnswer
  wunderkammerRead(frame: number): FrameAnswer
}

type FrameAnswer = (Omit<Frame, 'frame'> & { broken?: string }) | null

const core = globalThis as unknown as CoreGlobals

const ready = (async () => {
  const go = new core.Go()
  const { instance } = await WebAssembly.instantiateStreaming(fetch(wasmUrl), go.importObject)
  void go.run(instance)
})()

/** Whatever is thrown means that the core is of no use any more: it ran out of memory, or ended. */
function guarded<T>(run: () => T): T | { broken: string } {
  try {
    return run()
  } catch (error) {
    return { broken: String(error) }
  }
}

/** The answer to a call as the core wrote it: the page reads it, which is quicker than to be given it in pieces. */
function told(run: () => string): string {
  const text = guarded(run)
  return typeof text === 'string' ? text : JSON.stringify(text)
}

/** An answer with the frame after it. */
function withFrame(text: string, frame: number): { text: string; frame: Frame | null; broken?: string } {
  return text.startsWith('{"broken"') ? { text, frame: null } : handOver({ text, ...evaluate(frame) })
}

function evaluate(frame: number, how = core.wunderkammerFrame): { frame: Frame | null; broken?: string } {
  return guarded(() => {
    const f = how(frame)
    return f?.broken ? { frame: null, broken: f.broken } : { frame: f && { frame, ...f } }
  }) as { frame: Frame | null; broken?: string }
}

function handOver<T extends { frame: Frame | null }>(answer: T): T {
  const f = answer.frame
  if (!f) return answer
  const parts = [f.values.buffer, f.shapes.buffer, f.particles.buffer, f.copies.buffer]
  return Comlink.transfer(answer, f.slots ? [...parts, f.slots.buffer] : parts)
}

const service: CoreService = {
  async ask(method, argument) {
    await ready
    return told(() => core.wunderkammerCore(method, argument))
  },

  async act(method, argument, frame) {
    await ready
    return withFrame(
      told(() => core.wunderkammerCore(method, argument)),
      frame,
    )
  },

  async open(document, unsent, frame) {
    await ready
    return withFrame(
      told(() => core.wunderkammerOpen(document, unsent)),
      frame,
    )
  },

  async hear(channels, rate) {
    await ready
    return told(() => core.wunderkammerHear(channels, rate))
  },

  async frame(frame) {
    await ready
    return handOver(evaluate(frame))
  },

  async read(frame) {
    await ready
    return handOver(evaluate(frame, core.wunderkammerRead))
  },
}

Comlink.expose(service)
