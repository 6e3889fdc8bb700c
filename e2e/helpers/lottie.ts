import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'

/** What a player for the web shows of an animation at one of its frames, from the upper left corner of the page on. */
export async function played(page: Page, text: string, frame: number): Promise<Buffer> {
  await page.setContent('<style>body{margin:0}svg{display:block}</style><div id="there"></div>')
  await page.addScriptTag({
    path: createRequire(import.meta.url).resolve('lottie-web/build/player/lottie_svg.min.js'),
  })
  await page.evaluate(
    async ({ text, frame }) => {
      const { lottie } = window as unknown as {
        lottie: {
          loadAnimation: (o: object) => {
            addEventListener: (n: string, f: () => void) => void
            goToAndStop: (f: number, frames: boolean) => void
          }
        }
      }
      const container = document.getElementById('there')
      const player = lottie.loadAnimation({
        container,
        renderer: 'svg',
        autoplay: false,
        animationData: JSON.parse(text) as object,
      })
      await new Promise<void>((done) => player.addEventListener('DOMLoaded', done))
      player.goToAndStop(frame, true)
    },
    { text, frame },
  )
  return page.screenshot()
}
