import { chromium } from 'playwright-core'
import { findChromium } from './machine.mjs'

/** Starts Chromium without a window. It asks nobody but the pages that are opened. */
export function startChromium() {
  const quiet = ['--disable-background-networking', '--disable-component-update', '--disable-sync', '--disable-quic']
  return chromium.launch({
    executablePath: findChromium() ?? 'chromium',
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run', ...quiet],
  })
}
