import assert from 'node:assert/strict'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { after, before, describe, it, type TestContext } from 'node:test'
import type { Browser } from 'playwright-core'
import { build } from 'vite'
import { openPage, serveFiles, startChromium } from './support/chromium.ts'
import { needs } from './support/programs.ts'
import { REPOSITORY } from './support/project.ts'
import { accessibilityFaults } from './support/view-page.ts'

const SECRET = 'drill-canary-7Qm2Zt94'
const DEFINITION = JSON.stringify({
  stages: ['development', 'production'],
  settings: {
    dome: {
      url: { kind: 'url', description: 'Address of the dome controller' },
      key: {
        kind: 'string',
        secret: true,
        distinctAcrossStages: true,
        description: 'Key the dome controller asks for',
      },
    },
  },
})

let browser: Browser
let files: Record<string, string>
let out: string
before(async () => {
  out = mkdtempSync(join(tmpdir(), 'mappa-test-'))
  await build({
    root: join(REPOSITORY, 'examples/stage-table'),
    configFile: join(REPOSITORY, 'examples/stage-table/vite.config.ts'),
    logLevel: 'silent',
    build: { outDir: out, emptyOutDir: true },
  })
  const names = readdirSync(out, { recursive: true, encoding: 'utf8' }).filter((name) => name.includes('.'))
  files = Object.fromEntries(names.map((name) => [name, readFileSync(join(out, name), 'utf8')]))
  if (needs('chromium-headless-shell').skip === false) browser = await startChromium()
})
after(async () => {
  await browser?.close()
  rmSync(out, { recursive: true, force: true })
})

/** Drops files on the page, as a person does. */
const DROP = `(files) => {
  const data = new DataTransfer()
  for (const [name, text] of Object.entries(files)) data.items.add(new File([text], name))
  document.querySelector('.drop').dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true }))
}`

async function open(context: TestContext) {
  const address = await serveFiles(context, files)
  const { page, errors } = await openPage(context, browser, address)
  const asked: string[] = []
  page.on('request', (request) => asked.push(request.url()))
  const drop = (dropped: Record<string, string>) => page.evaluate(`(${DROP})(${JSON.stringify(dropped)})`)
  return { page, errors, asked, drop }
}

describe('the table of stages without a server', needs('chromium-headless-shell'), () => {
  it('shows files that are dropped, and tells nobody of them', async (context) => {
    const { page, errors, asked, drop } = await open(context)
    await page.getByLabel('settings.definition.json').fill(DEFINITION)
    await page.getByRole('gridcell', { name: /^DOME_URL in production: missing/ }).waitFor()
    await drop({
      '.env.development': 'DOME_URL=dome\n',
      '.env.production': 'DOME_URL=https://dome.fernhollow.example\n',
      '.env.development.local': `DOME_KEY=${SECRET}\n`,
      '.env.production.local': `DOME_KEY=${SECRET}\n`,
      'notes.txt': 'DOME_URL=x\n',
    })
    await page.getByRole('gridcell', { name: /^DOME_URL in development: dome invalid \.env\.development:1/ }).waitFor()
    await page.getByRole('gridcell', { name: /^DOME_KEY in production: secret \w{3} same as development/ }).waitFor()
    await page.getByRole('alert').getByText('notes.txt').waitFor()
    await page.getByRole('gridcell', { name: /^DOME_KEY in production/ }).click()
    await page.getByText('(secret, 21 characters)').waitFor()
    assert.ok(!(await page.content()).includes(SECRET))
    await page.getByRole('button', { name: 'Remove .env.production', exact: true }).click()
    await page.getByRole('gridcell', { name: /^DOME_URL in production: missing/ }).waitFor()
    assert.deepEqual([errors, asked], [[], []])
    await assert.rejects(page.evaluate(`fetch(location.href)`))
    assert.deepEqual(await accessibilityFaults(page), [])
  })

  it('says what is wrong with a definition', async (context) => {
    const { page, drop } = await open(context)
    await page.getByLabel('settings.definition.json').fill('{ "settings": ')
    await page.getByRole('alert').getByText('This is not JSON yet').waitFor()
    await drop({ 'settings.definition.json': '{ "settings": { "dome": { "kind": "uri", "description": "x" } } }' })
    await page.getByRole('alert').getByText('uri').waitFor()
    await drop({ 'settings.definition.json': DEFINITION })
    await page.getByRole('gridcell', { name: /^DOME_URL in production/ }).waitFor()
    assert.equal(await page.getByRole('alert').count(), 0)
  })
})
