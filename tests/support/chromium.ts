import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { TestContext } from 'node:test'
import { type Browser, chromium, type Page } from 'playwright-core'
import { findChromium } from '../../scripts/machine.mjs'

/** Starts Chromium without a window. It asks nobody but the pages that a test opens. */
export function startChromium(): Promise<Browser> {
  const quiet = ['--disable-background-networking', '--disable-component-update', '--disable-sync', '--disable-quic']
  return chromium.launch({
    executablePath: findChromium() ?? 'chromium',
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run', ...quiet],
  })
}

/** A page, and what went wrong in it. */
export interface Opened {
  readonly page: Page
  readonly errors: string[]
  /** Waits until the first heading has this text in it. */
  readonly heading: (text: string) => Promise<void>
}

/** Opens a page, which is closed when the test ends. */
export async function openPage(context: TestContext, browser: Browser, url: string): Promise<Opened> {
  const page = await browser.newPage()
  context.after(() => page.close())
  const errors: string[] = []
  page.on('pageerror', (error) => errors.push(`${error.name}: ${error.message}`))
  await page.goto(url)
  return {
    page,
    errors,
    async heading(text) {
      const has = `document.querySelector('h1')?.textContent.includes(${JSON.stringify(text)})`
      await page.waitForFunction(has, undefined, { timeout: 15_000 }).catch(async () => {
        throw new Error(`"${text}" never came; there is: ${await page.innerText('body')} ${errors.join('; ')}`)
      })
    },
  }
}

const TYPES: Readonly<Record<string, string>> = { html: 'text/html', js: 'text/javascript', css: 'text/css' }

/** Serves files by their names as a host of plain files does, until the test ends. The files may change meanwhile. */
export async function serveFiles(context: TestContext, files: Record<string, string>): Promise<string> {
  const server = createServer((request, response) => {
    const path = new URL(request.url!, 'http://desk').pathname.slice(1)
    const name = path === '' || path.endsWith('/') ? `${path}index.html` : path
    const found = files[name]
    response.writeHead(found === undefined ? 404 : 200, {
      'content-type': TYPES[name.split('.').at(-1)!] ?? 'text/plain',
    })
    response.end(found)
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  context.after(() => server.close())
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}/`
}
