import * as Comlink from 'comlink'
import type { Catalogue, Frame } from './types'

export interface Answer<T> {
  result?: T
  error?: string
}

/** What the page can ask of the core; worker.ts does it. */
export interface Core {
  catalogue(): Promise<Catalogue>
  /** Asks for something that leaves the picture as it is. */
  ask<T>(method: string, argument: unknown): Promise<Answer<T>>
  /** Makes a call and evaluates the frame after it, so that both come back at once. */
  act<T>(method: string, argument: unknown, frame: number): Promise<Answer<T> & { frame: Frame | null }>
  frame(frame: number): Promise<{ frame: Frame | null }>
}

/** The core, in its worker. One for the page: it holds the project that is open. */
export const core = Comlink.wrap(new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'core' })) as unknown as Core
