import '@/generated/wasm_exec.js'
import * as Comlink from 'comlink'
import wasmUrl from '@/generated/core.wasm?url'
import type { Core } from './client'
import type { Catalogue, Frame } from './types'

interface GoRuntime {
  importObject: WebAssembly.Imports
  run(instance: WebAssembly.Instance): Promise<void>
}

interface CoreGlobals {
  Go: new () => GoRuntime
  wunderkammerCore(method: string, argument: string): string
  wunderkammerFrame(frame: number): { values: Float64Array<ArrayBuffer>; outlines: Float32Array<ArrayBuffer> } | null
}

const core = globalThis as unknown as CoreGlobals

const ready = (async () => {
  const go = new core.Go()
  const { instance } = await WebAssembly.instantiateStreaming(fetch(wasmUrl), go.importObject)
  void go.run(instance)
})()

function call<T>(method: string, argument: unknown): { result?: T; error?: string } {
  return JSON.parse(core.wunderkammerCore(method, JSON.stringify(argument))) as { result?: T; error?: string }
}

function evaluate(frame: number): Frame | null {
  const f = core.wunderkammerFrame(frame)
  return f && { frame, ...f }
}

function handOver<T extends { frame: Frame | null }>(answer: T): T {
  const f = answer.frame
  return f ? Comlink.transfer(answer, [f.values.buffer, f.outlines.buffer]) : answer
}

const service: Core = {
  async catalogue() {
    await ready
    return call<Catalogue>('catalogue', null).result as Catalogue
  },

  async ask<T>(method: string, argument: unknown): Promise<{ result?: T; error?: string }> {
    await ready
    return call<T>(method, argument)
  },

  async act<T>(method: string, argument: unknown, frame: number) {
    await ready
    return handOver({ ...call<T>(method, argument), frame: evaluate(frame) })
  },

  async frame(frame: number) {
    await ready
    return handOver({ frame: evaluate(frame) })
  },
}

Comlink.expose(service)
