import type { Page } from '@playwright/test'

/** How far apart two colours of a pixel are before it counts as different, of 255. */
const tolerance = 40

/** The share of pixels that differ between two pictures of the same size, in percent. */
export async function difference(page: Page, a: Buffer, b: Buffer): Promise<number> {
  return page.evaluate(
    async ({ sources, tolerance }) => {
      const [p, q] = await Promise.all(
        sources.map(async (source) => {
          const image = new Image()
          image.src = 'data:image/png;base64,' + source
          await image.decode()
          const canvas = new OffscreenCanvas(image.width, image.height)
          const context = canvas.getContext('2d')
          context?.drawImage(image, 0, 0)
          return context?.getImageData(0, 0, image.width, image.height)
        }),
      )
      if (!p || !q || p.width !== q.width || p.height !== q.height) throw new Error('the pictures differ in size')
      let wrong = 0
      for (let i = 0; i < p.data.length; i += 4) {
        if ([0, 1, 2].some((c) => Math.abs((p.data[i + c] ?? 0) - (q.data[i + c] ?? 0)) > tolerance)) wrong++
      }
      return (100 * wrong) / (p.width * p.height)
    },
    { sources: [a.toString('base64'), b.toString('base64')], tolerance },
  )
}

/** The viewport's picture of a composition of a size, one of its pixels on one of the screen. */
export async function staged(page: Page, width: number, height: number): Promise<Buffer> {
  await page.getByRole('button', { name: '1:1' }).click()
  const box = await page.getByTestId('stage').boundingBox()
  if (!box) throw new Error('there is no stage')
  return page.screenshot({
    clip: {
      x: box.x + Math.round((box.width - width) / 2),
      y: box.y + Math.round((box.height - height) / 2),
      width,
      height,
    },
  })
}
