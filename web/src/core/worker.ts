import '@/generated/wasm_exec.js'
import * as Comlink from 'comlink'
import wasmUrl from '@/generated/core.wasm?url'
import type { Answer, CoreService } from './client'
import type { Frame, Sound } from './types'

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

function call(method: string, argument: string): Answer<unknown> {
  return guarded(() => JSON.parse(core.wunderkammerCore(method, argument)) as Answer<unknown>)
}

/** An answer with the frame after it. */
function withFrame(answer: Answer<unknown>, frame: number): Answer<unknown> & { frame: Frame | null } {
  return answer.broken ? { ...answer, frame: null } : handOver({ ...answer, ...evaluate(frame) })
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
    return call(method, argument)
  },

  async act(method, argument, frame) {
    await ready
    return withFrame(call(method, argument), frame)
  },

  async open(document, unsent, frame) {
    await ready
    return withFrame(
      guarded(() => JSON.parse(core.wunderkammerOpen(document, unsent)) as Answer<unknown>),
      frame,
    )
  },

  async hear(channels, rate) {
    await ready
    return guarded(() => JSON.parse(core.wunderkammerHear(channels, rate)) as Answer<Sound>)
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
