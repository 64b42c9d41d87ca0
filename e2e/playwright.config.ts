import { defineConfig } from '@playwright/test'

// Two workers, each with a plant of its own: the tests of a file share it, as people do.
export default defineConfig({
  testDir: 'tests',
  globalSetup: './setup.ts',
  workers: 2,
  timeout: 90_000,
  expect: { timeout: 10_000 },
  retries: 1, // a busy machine; what needed it is told as flaky
  forbidOnly: !!process.env.CI,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      chromiumSandbox: false,
      args: [
        '--headless',
        // The core is compiled once, and what is hot not again, better: on two cores that took a third of each Bench's time, and gave nothing back.
        '--js-flags=--liftoff-only',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
