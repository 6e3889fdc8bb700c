import { applyPalette, GIFEncoder, quantize } from 'gifenc'
import { Pieces } from './pieces'
import type { Into, Writer } from './writers'

/**
 * How far a colour is moved before it becomes one of the palette, by where it is, so that a gradient shows no steps (Bayer's matrix of
 * 4 × 4).
 */
const matrix = [0, 8, 2, 10, 12, 4, 14, 6, 3, 11, 1, 9, 15, 7, 13, 5].map((n) => (n - 7.5) * 0.6)

function dither({ data, width }: ImageData): void {
  for (let i = 0, x = 0, y = 0; i < data.length; i += 4) {
    const by = matrix[(y & 3) * 4 + (x & 3)] as number
    for (let c = i; c < i + 3; c++) data[c] = (data[c] as number) + by
    if (++x === width) {
      x = 0
      y++
    }
  }
}

/** An animated GIF, with a palette of its own for each frame. What is less than half there is left out, the rest is opaque. */
export function animatedGif({ canvas, to, rate, loop, clear }: Into): Writer {
  const pieces = new Pieces(to)
  const { width, height } = canvas
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })
  if (!context) throw new Error('this browser draws no pictures of this size; choose a smaller one')
  const gif = GIFEncoder({ auto: false })
  gif.writeHeader()
  return {
    async add(nth) {
      context.clearRect(0, 0, width, height)
      context.drawImage(canvas, 0, 0)
      const image = context.getImageData(0, 0, width, height)
      if (clear) for (let i = 3; i < image.data.length; i += 4) image.data[i] = (image.data[i] as number) < 128 ? 0 : 255
      dither(image)
      const format = clear ? 'rgba4444' : 'rgb565'
      const palette = quantize(image.data, 256, { format, oneBitAlpha: clear })
      const nothing = clear ? palette.findIndex((colour) => colour[3] === 0) : -1
      const hundredths = Math.round((100 * (nth + 1)) / rate) - Math.round((100 * nth) / rate)
      gif.writeFrame(applyPalette(image.data, palette, format), width, height, {
        first: nth === 0,
        palette,
        delay: 10 * hundredths,
        repeat: loop === 1 ? -1 : Math.max(0, loop - 1), // how often it plays again
        transparent: nothing >= 0,
        transparentIndex: Math.max(0, nothing),
        dispose: clear ? 2 : 0,
      })
      await pieces.add(gif.bytes())
      gif.stream.reset()
    },
    async end() {
      gif.finish()
      void pieces.add(gif.bytes())
      await pieces.end()
    },
    drop: () => pieces.drop(),
  }
}
