declare module 'gifenc' {
  export type Palette = number[][]
  type Colours = 'rgb565' | 'rgba4444'
  export function quantize(pixels: Uint8ClampedArray, most: number, options: { format: Colours; oneBitAlpha: boolean }): Palette
  export function applyPalette(pixels: Uint8ClampedArray, palette: Palette, format: Colours): Uint8Array
  export function GIFEncoder(options: { auto: boolean }): {
    writeHeader(): void
    writeFrame(
      index: Uint8Array,
      width: number,
      height: number,
      options: {
        first: boolean
        palette: Palette
        delay: number
        repeat: number
        transparent: boolean
        transparentIndex: number
        dispose: number
      },
    ): void
    finish(): void
    bytes(): Uint8Array
    stream: { reset(): void }
  }
}
