import { spawn, spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
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

  await drawView()
} finally {
  desk.end()
  await dome.end()
  await browser.close()
}

/** The stages of the dome on the page of `mappa view`, and in a report. */
async function drawView(): Promise<void> {
  const repository = join(import.meta.dirname, '..')
  const command = join(repository, 'packages/mappa-cli/dist/main.js')
  const dome = mkdtempSync(join(tmpdir(), 'dome-api-'))
  const filter = (path: string) => !/node_modules|\.local$/.test(path)
  cpSync(join(repository, 'examples/dome-api'), dome, { recursive: true, filter })
  symlinkSync(join(repository, 'node_modules'), join(dome, 'node_modules'))
  spawnSync('npx', ['tsx', 'simulated/issue-keys.ts'], { cwd: dome })
  // A drill key by mistake in production, a value of the wrong kind, and none in staging.
  cpSync(join(dome, '.env.development.local'), join(dome, '.env.production.local'))
  rmSync(join(dome, '.env.staging.local'))
  const production = join(dome, '.env.production')
  writeFileSync(production, readFileSync(production, 'utf8').replace('DOME_PATIENCE=10s', 'DOME_PATIENCE=10'))
  const running = spawn(process.execPath, [command, 'view', '--editor', 'vi'], { cwd: dome })
  try {
    const link = await new Promise<string>((resolve) => {
      running.stdout.on('data', (text) => {
        const found = /http:\S+/.exec(String(text))
        if (found !== null) resolve(found[0])
      })
    })
    await page.goto(link)
    await page.getByRole('gridcell', { name: /^DOME_KEY in production/ }).click()
    await page.getByRole('heading', { name: 'Read by' }).waitFor()
    await page.screenshot({ path: join(SHOTS, 'view.png') })
    const report = join(dome, 'report.html')
    spawnSync(process.execPath, [command, 'view', '--out', report], { cwd: dome })
    await page.goto(`file://${report}`)
    await page.screenshot({ path: join(SHOTS, 'report.png') })
  } finally {
    running.kill()
    rmSync(dome, { recursive: true, force: true })
  }
}
