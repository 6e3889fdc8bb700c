import * as Comlink from 'comlink'
import type { Catalogue, Frame } from './types'

export interface Answer<T> {
  result?: T
  error?: string
}

/** What the worker does; arguments travel as JSON, which the core reads as it is. */
export interface CoreService {
  ask(method: string, argument: string): Promise<Answer<unknown>>
  act(method: string, argument: string, frame: number): Promise<Answer<unknown> & { frame: Frame | null }>
  frame(frame: number): Promise<{ frame: Frame | null }>
}

const service = Comlink.wrap<CoreService>(new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'core' }))

/** The core, in its worker. One for the page: it holds the project that is open. */
export const core = {
  /** Asks for something that leaves the picture as it is. */
  async ask<T>(method: string, argument: unknown = null): Promise<Answer<T>> {
    return (await service.ask(method, JSON.stringify(argument))) as Answer<T>
  },

  /** Makes a call and evaluates the frame after it, so that both come back at once. */
  async act<T>(method: string, argument: unknown, frame: number): Promise<Answer<T> & { frame: Frame | null }> {
    return (await service.act(method, JSON.stringify(argument), frame)) as Answer<T> & { frame: Frame | null }
  },

  frame: (frame: number): Promise<{ frame: Frame | null }> => service.frame(frame),

  async catalogue(): Promise<Catalogue> {
    return (await core.ask<Catalogue>('catalogue')).result as Catalogue
  },
}
