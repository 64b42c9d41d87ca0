import { defineConfig } from '@playwright/test'

// One worker: the tests share one plant with one printer, as people do.
export default defineConfig({
  testDir: 'tests',
  globalSetup: './setup.ts',
  workers: 1,
  timeout: 60_000,
  forbidOnly: !!process.env.CI,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      chromiumSandbox: false,
      args: [
        '--headless',
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
