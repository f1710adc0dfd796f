import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from 'playwright-core'
import { createServer } from 'vite'
import { runExample as runDome } from '../examples/dome-api/simulated/run-example.ts'
import { runExample } from '../examples/night-desk/simulated/run-example.ts'
import { findChromium } from './machine.mjs'

const SHOTS = join(import.meta.dirname, '../docs/screenshots')

/** Draws the page of the example as visitors see it, and the page that stands in its place while settings are wrong. */
const browser = await chromium.launch({ executablePath: findChromium()!, args: ['--no-sandbox', '--disable-gpu'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const desk = runExample()
const dome = await runDome()
try {
  const service = await dome.start('production')
  await desk.buildPage('production')
  await desk.buildServer()
  const served = await desk.serve('staging', { VISITOR_API_URL: service.url! })
  await page.goto(served.url)
  await page.waitForSelector('.places')
  await page.fill('input', 'Ada Fern')
  await page.click('button')
  await page.waitForSelector('output')
  await page.screenshot({ path: join(SHOTS, 'page.png'), clip: { x: 0, y: 0, width: 1280, height: 600 } })
  await served.stop()
  await service.stop()

  const file = join(desk.root, '.env.development')
  writeFileSync(
    file,
    readFileSync(file, 'utf8')
      .replace('VISITOR_REFRESH=5s', 'VISITOR_REFRESH=5')
      .replace('VISITOR_API_URL', 'VISITOR_API_ULR'),
  )
  const server = await createServer({ root: desk.root, mode: 'development', logLevel: 'silent' })
  await server.listen()
  await page.goto(server.resolvedUrls!.local[0]!)
  // The directory of this machine says nothing to a reader.
  const shown = `document.querySelector('footer p code').textContent = '/srv/fernhollow/night-desk'`
  await page.evaluate(shown)
  await page.screenshot({ path: join(SHOTS, 'problem-page.png') })
  await server.close()
} finally {
  desk.end()
  await dome.end()
  await browser.close()
}
