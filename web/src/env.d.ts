declare module '@/generated/wasm_exec.js'

interface Window {
  /** What scripts in the browser's console may ask; see stores/document.ts. */
  wunderkammer: {
    values(frame: number): Promise<Float64Array>
    properties(): { item: string; property: string; slot: number; size: number }[]
    texts(): string[]
    particles(frame: number): Promise<Float32Array>
  }
}
