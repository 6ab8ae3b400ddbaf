import { defineConfig } from '@playwright/test';
import { availableParallelism } from 'node:os';

const PORT = Number(process.env.E2E_PORT ?? 4377);

export default defineConfig({
  testDir: 'tests/e2e',
  fullyParallel: false,
  // Each worker has a server and books of its own; the tests of a file follow each other.
  workers: Math.min(2, availableParallelism()),
  retries: 0,
  timeout: 90_000,
  // The machine may be busy with other things; what is awaited comes or does not.
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    screenshot: 'only-on-failure',
  },
});
