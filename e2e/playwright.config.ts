import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

const executablePath = [process.env['CHROME_BIN'], '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(
  (place) => place && existsSync(place),
);

export default defineConfig({
  testDir: 'tests',
  globalSetup: './tests/setup.ts',
  // What hangs ends with a list of what failed, before whoever runs it loses patience with all of it.
  globalTimeout: 60 * 60_000,
  maxFailures: 12,
  timeout: 300_000,
  expect: { timeout: 45_000 },
  workers: 2,
  retries: process.env['CI'] ? 1 : 0,
  reporter: 'line',
  use: {
    locale: 'en-GB',
    viewport: { width: 1280, height: 800 },
    // A service worker fetches the whole app anew for every window; offline.spec.ts allows it, for which it is there.
    serviceWorkers: 'block',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath,
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
  },
});
