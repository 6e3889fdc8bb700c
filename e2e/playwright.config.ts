import { defineConfig } from '@playwright/test'

/** Debian's Chromium, drawing in software; the last three flags keep the page itself out of it. */
export default defineConfig({
  testDir: './tests',
  workers: 1,
  fullyParallel: false,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  // On a busy machine a test may be starved; one that only passes when run again is counted and named.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: '../build/browser.json' }]],
  outputDir: './test-results',
  use: {
    screenshot: 'only-on-failure',
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--disable-gpu-compositing',
        '--disable-gpu-rasterization',
        '--disable-accelerated-2d-canvas',
      ],
    },
  },
})
