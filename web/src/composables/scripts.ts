import type { Frame } from '@/core/types'

/**
 * For scripts in the browser's console: every value of a frame, the texts that stand behind numbers in text slots, and
 * the particles. Reading changes nothing.
 */
export function openToScripts(read: (frame: number) => Promise<Frame | null>, texts: () => string[]): void {
  window.wunderkammer = {
    values: async (frame) => (await read(frame))?.values ?? new Float64Array(),
    texts,
    particles: async (frame) => (await read(frame))?.particles ?? new Float32Array(),
  }
}
