import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  timeout: 300_000,
  // What is waited for has no time of its own; a machine with much to do is only slow.
  expect: { timeout: 30_000 },
  retries: 0,
  // Each walk has sites of its own. The world's clock is everybody's: who runs it on goes first, alone.
  workers: 4,
  projects: [
    { name: 'clock', testMatch: 'address.spec.ts' },
    { name: 'walks', testIgnore: 'address.spec.ts', dependencies: ['clock'], fullyParallel: true },
  ],
  outputDir: '../test-results/e2e',
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  globalSetup: './fastigium.ts',
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    // A walk that has lost its way says so soon.
    actionTimeout: 60_000,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--disable-dev-shm-usage',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
