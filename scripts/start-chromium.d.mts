import type { Browser } from 'playwright-core'

export function startChromium(): Promise<Browser>
