import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  timeout: 90_000,
  expect: { timeout: 10_000 },
  workers: 2,
  // A second try tells a slow machine from a fault; what needed it is named by `npm test`, so that it is mended.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: '.cache/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        // No page of a test lives long enough to repay the last tier of the compiler: a seventh of the time.
        '--js-flags=--no-opt',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    // Requests of a page go where the test sends them; what works without a server has a test of its own.
    serviceWorkers: 'block',
    // Dialogs and drawers are there at once.
    contextOptions: { reducedMotion: 'reduce' },
    // A trace of each test costs a fifth of the time: `npx playwright test --trace retain-on-failure` when one is needed.
    trace: 'off',
  },
})
