import '@/generated/wasm_exec.js'
import * as Comlink from 'comlink'
import wasmUrl from '@/generated/core.wasm?url'
import type { Answer, CoreService } from './client'
import type { Frame } from './types'

interface GoRuntime {
  importObject: WebAssembly.Imports
  run(instance: WebAssembly.Instance): Promise<void>
}

interface CoreGlobals {
  Go: new () => GoRuntime
  wunderkammerCore(method: string, argument: string): string
  wunderkammerFrame(frame: number): Omit<Frame, 'frame'> | null
}

const core = globalThis as unknown as CoreGlobals

const ready = (async () => {
  const go = new core.Go()
  const { instance } = await WebAssembly.instantiateStreaming(fetch(wasmUrl), go.importObject)
  void go.run(instance)
})()

function call(method: string, argument: string): Answer<unknown> {
  return JSON.parse(core.wunderkammerCore(method, argument)) as Answer<unknown>
}

function evaluate(frame: number): Frame | null {
  const f = core.wunderkammerFrame(frame)
  return f && { frame, ...f }
}

function handOver<T extends { frame: Frame | null }>(answer: T): T {
  const f = answer.frame
  return f ? Comlink.transfer(answer, [f.values.buffer, f.shapes.buffer, f.particles.buffer]) : answer
}

const service: CoreService = {
  async ask(method, argument) {
    await ready
    return call(method, argument)
  },

  async act(method, argument, frame) {
    await ready
    return handOver({ ...call(method, argument), frame: evaluate(frame) })
  },

  async frame(frame) {
    await ready
    return handOver({ frame: evaluate(frame) })
  },
}

Comlink.expose(service)
