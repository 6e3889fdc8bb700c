/** How much light a number of a pixel stands for, 0 to 1: the curve of sRGB (IEC 61966-2-1). */
const light = Float32Array.from({ length: 256 }, (_, k) => {
  const x = k / 255
  return x <= 0.04045 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4
})

const fine = 4096
/** The numbers that light is shown by. */
const shown = Uint8ClampedArray.from({ length: fine + 1 }, (_, k) => {
  const x = k / fine
  return Math.round(255 * (x <= 0.0031308 ? 12.92 * x : 1.055 * x ** (1 / 2.4) - 0.055))
})

/** Averages pictures in linear light, as a shutter does that stands open while they pass. */
export class Exposure {
  /** Red, green, blue, as far as the pixel covers what is behind it, and how far that is. */
  private readonly sum: Float32Array
  private count = 0

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.sum = new Float32Array(4 * width * height)
  }

  open(): void {
    this.sum.fill(0)
    this.count = 0
  }

  /** Takes a picture as it is read off a canvas: from its lowest row up, its colours multiplied by their alpha. */
  add(pixels: Uint8Array): void {
    const { sum } = this
    for (let i = 0; i < sum.length; i += 4) {
      const a = pixels[i + 3] as number
      if (!a) continue
      const cover = a / 255
      for (let c = i; c < i + 3; c++) {
        const straight = a === 255 ? (pixels[c] as number) : Math.min(255, Math.round((pixels[c] as number) / cover))
        sum[c] = (sum[c] as number) + (light[straight] as number) * cover
      }
      sum[i + 3] = (sum[i + 3] as number) + cover
    }
    this.count++
  }

  /** The average of all that was taken, from its highest row down. */
  develop(): ImageData {
    const { sum, width, height, count } = this
    const image = new ImageData(width, height)
    const row = 4 * width
    for (let y = 0; y < height; y++) {
      for (let x = 0, i = (height - 1 - y) * row, o = y * row; x < width; x++, i += 4, o += 4) {
        const cover = sum[i + 3] as number
        if (!cover) continue
        for (let c = 0; c < 3; c++) image.data[o + c] = shown[Math.round((fine * (sum[i + c] as number)) / cover)] as number
        image.data[o + 3] = Math.round((255 * cover) / count)
      }
    }
    return image
  }
}
