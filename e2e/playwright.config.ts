import { defineConfig } from '@playwright/test'
import { chromiumOptions } from './chromium.mjs'

process.env.AERARIUM_AHEAD_SECONDS ??= String(Math.round((Date.parse('2026-06-18T08:00:00Z') - Date.now()) / 1000))

export default defineConfig({
  testDir: './tests',
  globalSetup: './prepareDemonstration.ts',
  workers: 2,
  timeout: 240_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    contextOptions: { reducedMotion: 'reduce' },
    viewport: { width: 1280, height: 800 },
    launchOptions: chromiumOptions,
  },
})
