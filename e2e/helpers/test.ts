import { test as base, type Page } from '@playwright/test'
import { Server } from './server'
import { Studio } from './studio'

export { expect } from '@playwright/test'

/** What the browser itself says of the network, which tests take away. */
const network = /^Failed to load resource|^WebSocket connection to|net::ERR_/

/** A server of its own for each test, and the studio in its page. An error of a page, thrown or written to its console, fails the test. */
export const test = base.extend<{
  server: Server
  demo: Server
  studio: Studio
  watch: (page: Page) => void
  second: () => Promise<Studio>
}>({
  server: async ({}, use) => {
    const server = new Server()
    await server.start()
    await use(server)
    await server.remove()
  },
  demo: async ({}, use) => {
    const server = new Server('demo')
    await server.start()
    await use(server)
    await server.remove()
  },
  watch: async ({}, use) => {
    const errors: string[] = []
    await use((page) => {
      // The runner hears of file choosers only while somebody listens, and needs a moment to begin: so from the start.
      page.on('filechooser', () => undefined)
      page.on('pageerror', (error) => errors.push(error.message))
      page.on('console', (said) => said.type() === 'error' && !network.test(said.text()) && errors.push(said.text()))
    })
    if (errors.length) throw new Error('errors in the page: ' + errors.join('; '))
  },
  /** Opens another window on what the page shows. */
  second: async ({ page, context, watch }, use) => {
    await use(async () => {
      const other = await context.newPage()
      watch(other)
      const studio = new Studio(other)
      await other.goto(page.url())
      await studio.drawn()
      return studio
    })
  },
  studio: async ({ page, watch }, use) => {
    watch(page)
    await use(new Studio(page))
  },
})
