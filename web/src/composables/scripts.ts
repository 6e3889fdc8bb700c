import type { Frame } from '@/core/types'

/** Where a property stands in the values of a frame. */
export type Placed = ReturnType<Window['wunderkammer']['properties']>[number]

/**
 * For scripts in the browser's console: every value of a frame, where each property stands in them, item by item, the
 * texts that stand behind numbers in text slots, and the particles. Reading changes nothing.
 */
export function openToScripts(read: (frame: number) => Promise<Frame | null>, properties: () => Placed[], texts: () => string[]): void {
  window.wunderkammer = {
    values: async (frame) => (await read(frame))?.values ?? new Float64Array(),
    properties,
    texts,
    particles: async (frame) => (await read(frame))?.particles ?? new Float32Array(),
  }
}
