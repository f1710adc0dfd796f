import assert from 'node:assert/strict'
import { chmodSync, existsSync, readFileSync } from 'node:fs'
import { request } from 'node:http'
import { join } from 'node:path'
import { after, before, describe, it, type TestContext } from 'node:test'
import { startChromium } from '@mappa/tests/support/chromium'
import { startCluster } from '@mappa/tests/support/etcd'
import { needs } from '@mappa/tests/support/programs'
import { makeProject } from '@mappa/tests/support/project'
import { accessibilityFaults, startView, type ViewPage } from '@mappa/tests/support/view-page'
import type { Browser, Page } from 'playwright-core'

let browser: Browser
before(async () => {
  if (needs('chromium-headless-shell').skip === false) browser = await startChromium()
})
after(() => browser?.close())

/** Values that no answer may hold. */
const CANARIES = ['drill-canary-7Qm2Zt94', 'open-canary-9f3Kq27L', 'gauge-canary-1Lz08XvB']
const [DRILL, OPEN, GAUGE] = CANARIES as [string, string, string]

const DEFINITION = {
  stages: ['development', 'staging', 'production'],
  settings: {
    server: { port: { kind: 'port', description: 'Port the dome service listens on', default: 4100 } },
    dome: {
      url: { kind: 'url', description: 'Address of the dome controller' },
      key: {
        kind: 'string',
        description: 'Key the dome controller asks for',
        secret: true,
        minLength: 12,
        distinctAcrossStages: true,
        rotateEvery: 'P90D',
      },
      motors: { kind: 'boolean', description: 'Whether the motors may really move', default: false },
    },
    night: { places: { kind: 'integer', description: 'Visitors in one night', minimum: 1, maximum: 40 } },
  },
}
const FILES = {
  'package.json': '{ "name": "dome-api", "type": "module", "dependencies": { "mappa-settings": "*" } }',
  'settings.definition.json': JSON.stringify(DEFINITION, null, 2),
  '.env': 'NIGHT_PLACES=12\n',
  '.env.development': 'DOME_URL=http://127.0.0.1:4200\nDOME_MOTORS=perhaps\n',
  '.env.development.local': `# set 2026-11-01\nDOME_KEY=${DRILL}\n`,
  '.env.staging': 'DOME_URL=https://rehearsal.fernhollow.example\nNIGHT_PLACES=3\n',
  '.env.staging.local': `# set 2024-01-02\nDOME_KEY=${OPEN}\n`,
  '.env.production': 'SERVER_PORT=4120\nDOME_MOTORS=yes\n',
  '.env.production.local': `# set 2024-01-02\nDOME_KEY=${OPEN}\n`,
  'src/dome.ts': 'export const open = (settings: { dome: { url: string } }) => fetch(settings.dome.url)\n',
}
const dome = (context: TestContext, files: Record<string, string> = {}) => makeProject(context, { ...FILES, ...files })

const cell = (page: Page, name: string, stage: string) =>
  page.getByRole('gridcell', { name: new RegExp(`^${name} in ${stage}: `) })
const sayOf = async (page: Page, name: string, stage: string) =>
  (await cell(page, name, stage).innerText())
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/^.*? in \w+: /, '')
    .replace(/secret [a-z0-9]{3} /, '')
const storyOf = async (page: Page, name: string, stage: string) => {
  await cell(page, name, stage).click()
  const story = page.getByRole('complementary', { name: 'Story of the setting' })
  await story.getByRole('heading', { name: 'Rules' }).waitFor()
  return story
}
const mustBeClean = ({ errors, addresses }: ViewPage, address: string) => {
  assert.deepEqual(errors, [])
  assert.deepEqual(
    addresses.filter((each) => !each.startsWith(address)),
    [],
  )
}

describe('the page of mappa view', needs('chromium-headless-shell'), () => {
  it('shows of each setting and stage how it stands', async (context) => {
    const view = await startView(context, browser, dome(context))
    const opened = await view.open()
    const { page } = opened
    await cell(page, 'DOME_KEY', 'staging').waitFor()
    const said: Record<string, string[]> = {}
    for (const name of ['SERVER_PORT', 'DOME_URL', 'DOME_KEY', 'DOME_MOTORS', 'NIGHT_PLACES'])
      said[name] = await Promise.all(DEFINITION.stages.map((stage) => sayOf(page, name, stage)))
    assert.deepEqual(said, {
      SERVER_PORT: ['4100 default', '4100 default', '4120 .env.production:1'],
      DOME_URL: [
        'http://127.0.0.1:4200 .env.development:1',
        'https://rehearsal.fernhollow.example .env.staging:1',
        'missing',
      ],
      DOME_KEY: [
        '.env.development.local:2',
        'same as production overdue .env.staging.local:2',
        'same as staging overdue .env.production.local:2',
      ],
      DOME_MOTORS: ['perhaps invalid .env.development:2', 'false default', 'true .env.production:2'],
      NIGHT_PLACES: ['12 inherited from .env:1', '3 .env.staging:2 overrides .env:1', '12 inherited from .env:1'],
    })
    const cards = await page.getByRole('list', { name: 'Stages' }).getByRole('heading').allInnerTexts()
    assert.deepEqual(
      cards.map((text) => text.replace(/\s+/g, ' ')),
      ['development 1 error', 'staging 1 error', 'production 2 errors'],
    )
    assert.ok((await page.getByRole('list', { name: 'Stages' }).innerText()).includes('DOME_URL is not set.'))
    mustBeClean(opened, view.address)
  })

  it('names the sources that it did not read, where it says what reads a setting', async (context) => {
    const large = `// settings.dome.url\n${'const night = 1\n'.repeat(80_000)}`
    const view = await startView(context, browser, dome(context, { 'src/made.ts': large }))
    const { page } = await view.open()
    const story = await storyOf(page, 'DOME_URL', 'production')
    await story.getByText('src/dome.ts:1').waitFor()
    await story.getByText('Not read: src/made.ts.').waitFor()
  })

  it('tells the story of a value, and opens its place in the editor', async (context) => {
    const project = dome(context, { 'editor.sh': '#!/bin/sh\necho "$@" > "$MAPPA_TEST_OUT"\n' })
    chmodSync(join(project.root, 'editor.sh'), 0o755)
    const opened = join(project.root, 'opened.txt')
    const words = ['--editor', join(project.root, 'editor.sh')]
    const view = await startView(context, browser, project, words, { MAPPA_TEST_OUT: opened })
    const { page } = await view.open()
    const story = await storyOf(page, 'NIGHT_PLACES', 'staging')
    const text = await story.innerText()
    for (const piece of [
      'NIGHT_PLACES',
      'night.places · whole number',
      '.env:1',
      'overridden',
      '.env.staging:2 wins: it is the highest of the 2 layers that set it.',
      'at least 1',
    ])
      assert.ok(text.includes(piece), `${piece} in ${text}`)
    await story.getByRole('button', { name: 'Open .env.staging:2 in the editor' }).click()
    // The file is there before the editor has written into it.
    const isWritten = () => existsSync(opened) && readFileSync(opened, 'utf8') !== ''
    for (let wait = 0; wait < 400 && !isWritten(); wait++) await page.waitForTimeout(20)
    assert.match(readFileSync(opened, 'utf8'), /\/\.env\.staging/)
    const url = await storyOf(page, 'DOME_URL', 'production')
    assert.match(
      await url.innerText(),
      /error DOME_URL is not set[\s\S]*✗ required[\s\S]*src\/dome\.ts:1 settings\.dome\.url/,
    )
  })

  it('writes a secret that is hidden while it is typed, and never comes back', async (context) => {
    const project = dome(context)
    const view = await startView(context, browser, project)
    const opened = await view.open()
    const { page } = opened
    const story = await storyOf(page, 'DOME_KEY', 'production')
    await story.getByRole('button', { name: 'Set a value' }).click()
    const dialog = page.getByRole('dialog', { name: 'Set DOME_KEY' })
    const value = dialog.getByLabel('Value', { exact: true })
    assert.equal(await value.getAttribute('type'), 'password')
    assert.deepEqual(await dialog.getByRole('radio').count(), 2)
    await value.fill('short')
    await dialog.getByText('DOME_KEY must have at least 12 characters').waitFor()
    assert.ok(await dialog.getByRole('button', { name: 'Write' }).isDisabled())
    const secret = 'new-canary-5wQ41vBz0X'
    await value.fill(secret)
    await dialog.locator('figure').waitFor()
    const diff = await dialog.locator('figure').innerText()
    assert.match(diff, /\.env\.production\.local[\s\S]*\+DOME_KEY=\(secret, 21 characters\)/)
    assert.ok(!readFileSync(join(project.root, '.env.production.local'), 'utf8').includes(secret))
    await dialog.getByRole('button', { name: 'Write' }).click()
    await dialog.getByText('DOME_KEY is set in .env.production.local:2.').waitFor()
    const today = new Date().toISOString().slice(0, 10)
    assert.equal(
      readFileSync(join(project.root, '.env.production.local'), 'utf8'),
      `# set ${today}\nDOME_KEY=${secret}\n`,
    )
    await dialog.getByRole('button', { name: 'Close' }).click()
    await page
      .getByRole('gridcell', { name: /^DOME_KEY in production: secret \w{3} changed \.env\.production\.local:2/ })
      .waitFor()
    mustBeClean(opened, view.address)
    for (const canary of [...CANARIES, secret]) assert.ok(!opened.answers.some((each) => each.includes(canary)), canary)
    assert.ok(!(await page.content()).includes(secret))
  })

  it('keeps the lines of a key that is pasted, hidden, and shows at once what it wrote', async (context) => {
    const project = dome(context)
    const { page } = await (await startView(context, browser, project)).open()
    // Nobody tells this page of changes.
    await page.route('**/api/events', (route) => route.abort())
    await page.reload()
    const story = await storyOf(page, 'DOME_KEY', 'production')
    await story.getByRole('button', { name: 'Set a value' }).click()
    const dialog = page.getByRole('dialog')
    const lines = '-----BEGIN MADE UP-----\nc2t5\n-----END MADE UP-----'
    await dialog.getByLabel('Value', { exact: true }).evaluate(PASTE, lines)
    await dialog.locator('figure').waitFor()
    const style = `getComputedStyle(document.querySelector('.masked')).webkitTextSecurity`
    assert.equal(await page.evaluate(style), 'disc')
    await dialog.getByRole('button', { name: 'Write' }).click()
    await dialog.getByText('DOME_KEY is set in .env.production.local:2.').waitFor()
    await dialog.getByRole('button', { name: 'Close' }).click()
    assert.match(await cell(page, 'DOME_KEY', 'production').innerText(), /changed/)
    const { stdout } = project.mappa(['show', 'DOME_KEY', '--stage', 'production', '--reveal', '--json'])
    assert.equal((JSON.parse(stdout) as { value: string }).value, lines)
  })

  it('shows changes of files while it is open, and a definition that breaks', async (context) => {
    const project = dome(context)
    const { page } = await (await startView(context, browser, project)).open()
    await cell(page, 'DOME_URL', 'production').waitFor()
    project.write('.env.production', 'SERVER_PORT=4120\nDOME_URL=https://dome.fernhollow.example\n')
    await page
      .getByRole('gridcell', {
        name: 'DOME_URL in production: https://dome.fernhollow.example changed .env.production:2',
      })
      .waitFor()
    await page.getByRole('button', { name: 'Changed 2' }).click()
    const left = await page.locator('.row__name:visible').allInnerTexts()
    assert.deepEqual(left, ['DOME_URL', 'DOME_MOTORS'])
    project.write('settings.definition.json', '{ "settings": ')
    await page.getByRole('alert').getByText('settings.definition.json').first().waitFor()
    project.write('settings.definition.json', FILES['settings.definition.json'])
    await page.getByRole('alert').waitFor({ state: 'detached' })
  })

  it('shows changes of a store, and says when nobody can read it', needs('etcd-server'), async (context) => {
    const { ask: put, endpoints, kill } = await startCluster(context)
    const base64 = (text: string) => Buffer.from(text).toString('base64')
    const write = (name: string, value: string) =>
      put('kv/put', { key: base64(`fernhollow/dome-api/production/${name}`), value: base64(value) })
    await write('NIGHT_PLACES', '7')
    const project = dome(context, {
      'settings.store.json': JSON.stringify({ kind: 'etcd', endpoints, prefix: 'fernhollow/dome-api' }),
    })
    const { page } = await (await startView(context, browser, project, ['--store'])).open()
    await page.getByRole('gridcell', { name: /^NIGHT_PLACES in production: 7 .*NIGHT_PLACES @\d+/ }).waitFor()
    await write('NIGHT_PLACES', '9')
    await page.getByRole('gridcell', { name: /^NIGHT_PLACES in production: 9 changed/ }).waitFor()
    await kill(0)
    await page.getByRole('alert').getByText('etcd').first().waitFor()
    // What was read last is shown still, and files are followed.
    project.write('.env.production', 'SERVER_PORT=4121\n')
    await page.getByRole('gridcell', { name: /^SERVER_PORT in production: 4121/ }).waitFor()
    await page.getByRole('gridcell', { name: /^NIGHT_PLACES in production: 9/ }).waitFor()
  })

  it('lets two windows edit, and none of them overwrites the other', async (context) => {
    const project = dome(context)
    const view = await startView(context, browser, project)
    const { page: first } = await view.open()
    await first.getByRole('button', { name: 'Another window' }).click()
    const link = await first.getByRole('dialog').getByRole('textbox', { name: 'Link' }).inputValue()
    await first.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
    const { page: second } = await view.open(link)
    const begin = async (page: Page, value: string) => {
      await (await storyOf(page, 'NIGHT_PLACES', 'production')).getByRole('button', { name: 'Set a value' }).click()
      const dialog = page.getByRole('dialog')
      await dialog.getByLabel('Value', { exact: true }).fill(value)
      await dialog.locator('figure').waitFor()
      return dialog
    }
    const dialogs = [await begin(first, '5'), await begin(second, '6')] as const
    await dialogs[0].getByRole('button', { name: 'Write' }).click()
    await dialogs[0].getByText('NIGHT_PLACES is set in .env.production:3.').waitFor()
    await dialogs[1].getByRole('button', { name: 'Write' }).click()
    await dialogs[1].getByRole('alert').getByText('.env.production').waitFor()
    assert.match(readFileSync(join(project.root, '.env.production'), 'utf8'), /NIGHT_PLACES=5\n/)
    // The second one now sees what the first has written, and may go on.
    await dialogs[1].getByText('-NIGHT_PLACES=5').waitFor()
    await dialogs[1].getByRole('button', { name: 'Write' }).click()
    await dialogs[1].getByText('NIGHT_PLACES is set in .env.production:3.').waitFor()
    assert.match(readFileSync(join(project.root, '.env.production'), 'utf8'), /NIGHT_PLACES=6\n/)
    await first.getByRole('gridcell', { name: /^NIGHT_PLACES in production: 6/ }).waitFor()
  })

  it('moves a finding of the code after showing the whole change', async (context) => {
    const project = dome(context, { 'src/gauge.ts': `export const gauge = { apiKey: '${GAUGE}' }\n` })
    const view = await startView(context, browser, project)
    const opened = await view.open()
    const { page } = opened
    await page.getByRole('radio', { name: 'In the code' }).click()
    await page.getByRole('heading', { name: 'GAUGE_API_KEY' }).waitFor()
    assert.match(await page.getByRole('main').innerText(), /apiKey: '\(secret, 21 characters\)'/)
    await page.getByRole('button', { name: 'Show the move of GAUGE_API_KEY' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('The value in the code is for').selectOption('staging')
    await dialog.locator('figure').last().waitFor()
    assert.match(await dialog.innerText(), /-export const gauge = \{ apiKey: '\(secret, 21 characters\)' \}/)
    await dialog.getByRole('button', { name: 'Write all of it' }).click()
    await dialog.getByText('Written:').waitFor()
    assert.ok(!readFileSync(join(project.root, 'src/gauge.ts'), 'utf8').includes(GAUGE))
    assert.ok(readFileSync(join(project.root, '.env.staging.local'), 'utf8').includes(`GAUGE_API_KEY=${GAUGE}`))
    await dialog.getByRole('button', { name: 'Close' }).click()
    await page.getByRole('heading', { name: 'No settings or keys found in the code' }).waitFor()
    for (const canary of CANARIES) assert.ok(!opened.answers.some((each) => each.includes(canary)), canary)
    mustBeClean(opened, view.address)
  })

  it('can be used by the keyboard alone', async (context) => {
    const view = await startView(context, browser, dome(context))
    const { page } = await view.open()
    await cell(page, 'DOME_URL', 'production').waitFor()
    const press = async (...keys: string[]) => {
      for (const key of keys) await page.keyboard.press(key)
    }
    const focused = () =>
      page.evaluate('document.activeElement.getAttribute("aria-label") ?? document.activeElement.textContent.trim()')
    await press('/')
    await page.keyboard.type('DOME_')
    await page.getByText('3 of 5 settings').waitFor()
    for (let tabs = 0; tabs < 12 && !String(await focused()).includes(' in '); tabs++) await press('Tab')
    assert.match(String(await focused()), /^DOME_URL in development: /)
    await press('ArrowDown', 'ArrowRight', 'ArrowRight')
    assert.match(String(await focused()), /^DOME_KEY in production: /)
    await press('Home', 'ArrowUp', 'End')
    assert.match(String(await focused()), /^DOME_URL in production: missing/)
    await press('Enter')
    await page.getByRole('heading', { name: 'DOME_URL', exact: true }).waitFor()
    for (let tabs = 0; tabs < 6 && (await focused()) !== 'Set a value'; tabs++) await press('Tab')
    await press('Enter')
    await page.getByRole('dialog').waitFor()
    await page.keyboard.type('https://dome.fernhollow.example')
    await page.getByRole('dialog').locator('figure').waitFor()
    for (let tabs = 0; tabs < 6 && (await focused()) !== 'Write'; tabs++) await press('Tab')
    await press('Enter')
    await page.getByText('DOME_URL is set in .env.production:3.').waitFor()
    await press('Enter')
    await page.getByRole('dialog').waitFor({ state: 'detached' })
    await page.getByRole('button', { name: 'Close the story' }).focus()
    await press('Escape')
    await page.getByRole('complementary').waitFor({ state: 'detached' })
    await page.waitForFunction('document.activeElement.role === "gridcell"')
    assert.match(String(await focused()), /^DOME_URL in production: https/)
  })

  for (const dark of [false, true])
    it(`is accessible in ${dark ? 'dark' : 'light'} colors, in a wide and in a narrow window`, async (context) => {
      const project = dome(context, { 'src/gauge.ts': `export const gauge = { apiKey: '${GAUGE}' }\n` })
      const view = await startView(context, browser, project)
      const { page } = await view.open(view.link, { dark })
      await cell(page, 'DOME_KEY', 'production').waitFor()
      assert.deepEqual(await accessibilityFaults(page), [])
      const story = await storyOf(page, 'DOME_KEY', 'production')
      assert.deepEqual(await accessibilityFaults(page), [])
      await story.getByRole('button', { name: 'Set a value' }).click()
      await page.getByRole('dialog').getByLabel('Value', { exact: true }).fill('much-longer-value')
      await page.getByRole('dialog').locator('figure').waitFor()
      assert.deepEqual(await accessibilityFaults(page), [])
      await page.keyboard.press('Escape')
      await page.getByRole('radio', { name: 'In the code' }).click()
      await page.getByRole('button', { name: 'Show the move of GAUGE_API_KEY' }).click()
      await page.getByRole('dialog').locator('figure').first().waitFor()
      assert.deepEqual(await accessibilityFaults(page), [])
      await page.keyboard.press('Escape')
      await page.getByRole('radio', { name: 'Settings' }).click()
      await page.setViewportSize({ width: 390, height: 844 })
      assert.deepEqual(await accessibilityFaults(page), [])
      const width = 'document.documentElement.scrollWidth'
      assert.equal(await page.evaluate(width), 390)
    })

  it('takes HTML in every text for text', async (context) => {
    const html = '<img src=x onerror="document.title=1"><b>'
    const project = dome(context, {
      'package.json': JSON.stringify({ name: html }),
      'settings.definition.json': JSON.stringify({
        stages: ['development', 'production'],
        settings: {
          dome: { url: { kind: 'string', description: html }, label: { kind: 'integer', description: html } },
        },
      }),
      '.env.development': `DOME_URL='${html}'\nDOME_LABEL='${html}'\n`,
      'src/<img src=x><b>.mjs': `export const gauge = { apiKey: '${GAUGE}' } // <img src=x>\n`,
    })
    const view = await startView(context, browser, project)
    const { page, errors } = await view.open()
    const story = await storyOf(page, 'DOME_LABEL', 'development')
    assert.ok((await story.innerText()).includes(html.slice(0, 20)))
    assert.equal(await page.locator('img, main b img').count(), 0)
    assert.ok((await page.getByRole('heading', { level: 1 }).innerText()).includes(html))
    await page.getByRole('radio', { name: 'In the code' }).click()
    await page.getByText('src/<img src=x><b>.mjs:1').waitFor()
    await page.getByRole('button', { name: 'Show the move of GAUGE_API_KEY' }).click()
    await page.getByRole('dialog').locator('figure').first().waitFor()
    assert.equal(await page.locator('img').count(), 0)
    const { stdout } = project.mappa(['view', '--format', 'html'])
    const report = await browser.newPage({ javaScriptEnabled: false })
    context.after(() => report.close())
    await report.setContent(stdout)
    assert.equal(await report.locator('img').count(), 0)
    assert.ok((await report.innerText('body')).includes(html))
    assert.ok(!project.mappa(['view', '--format', 'markdown']).stdout.includes(`${html}\n`))
    assert.deepEqual(errors, [])
  })

  it('ends with the command, and says so in the page', async (context) => {
    const view = await startView(context, browser, dome(context))
    const { page } = await view.open()
    await cell(page, 'DOME_URL', 'production').waitFor()
    const { status, printed } = await view.end()
    assert.equal(status, 0)
    assert.match(printed, /The page is closed\.\n$/)
    await page.getByText('Not connected: the command has ended').waitFor()
  })
})

/** Pastes a text into a field, as the clipboard does. */
const PASTE = new Function(
  'field',
  'text',
  `const data = new DataTransfer(); data.setData('text', text)
  field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))`,
) as (field: unknown, text: string) => void

/** What a server answers to one request. */
interface Asked {
  readonly path?: string
  readonly method?: string
  readonly headers?: Record<string, string>
  readonly body?: string
}

function ask(address: string, { path = '/api/state', method = 'POST', headers = {}, body = '{}' }: Asked) {
  const { hostname, port, host } = new URL(address)
  return new Promise<{ status: number; text: string; headers: Record<string, unknown> }>((resolve, reject) => {
    const own = { host, origin: `http://${host}`, 'content-type': 'application/json', ...headers }
    const kept = Object.fromEntries(Object.entries(own).filter(([, value]) => value !== ''))
    const sent = request({ hostname, port, path, method, headers: kept }, (response) => {
      let text = ''
      response.on('data', (piece) => {
        text += piece
      })
      response.on('end', () => resolve({ status: response.statusCode!, text, headers: response.headers }))
    })
    sent.on('error', reject)
    sent.end(method === 'GET' ? undefined : body)
  })
}

describe('the server of mappa view', () => {
  /** A running server, and a key that it takes. */
  const start = async (context: TestContext) => {
    const view = await startView(context, browser, dome(context))
    const token = view.link.split('#')[1]!
    const session = () => ask(view.address, { path: '/api/session', body: JSON.stringify({ token }) })
    const { text } = await session()
    const { key } = JSON.parse(text) as { key: string }
    return { ...view, token, session, authorization: `Bearer ${key}` }
  }

  it('listens on the loopback address, and takes a link once', async (context) => {
    const { address, session, authorization } = await start(context)
    assert.match(address, /^http:\/\/127\.0\.0\.1:\d+\/$/)
    assert.equal((await session()).status, 401)
    const { status, text } = await ask(address, { headers: { authorization } })
    assert.equal(status, 200)
    assert.equal((JSON.parse(text) as { overview: { project: string } }).overview.project, 'dome-api')
  })

  const refused: Readonly<Record<string, readonly [status: number, asked: Asked, withKey?: boolean]>> = {
    'without a key': [401, {}, false],
    'with a wrong key': [401, { headers: { authorization: 'Bearer x' } }, false],
    'under another name': [403, { headers: { host: 'dome.fernhollow.example' } }],
    'under the name localhost': [403, { headers: { host: 'localhost' } }],
    'from another origin': [403, { headers: { origin: 'https://dome.fernhollow.example' } }],
    'from no origin': [403, { headers: { origin: '' } }],
    'from the origin null': [403, { headers: { origin: 'null' } }],
    'from another site': [403, { headers: { 'sec-fetch-site': 'cross-site' } }],
    'from a page of another port': [403, { headers: { 'sec-fetch-site': 'same-site' } }],
    'that only reads': [405, { method: 'GET' }],
    'for what is not there': [404, { path: '/api/secrets' }],
    'for what every object has': [404, { path: '/api/constructor' }],
    'that is no JSON': [400, { headers: { 'content-type': 'text/plain' } }],
    'that is broken JSON': [400, { body: '{' }],
    'that is a list': [400, { body: '[]' }],
    'that lacks what it needs': [400, { path: '/api/story' }],
    'that is too large': [400, { body: JSON.stringify({ text: 'x'.repeat(3_000_000) }) }],
    'for a setting that is not there': [404, { path: '/api/story', body: '{"setting":"dome.none"}' }],
    'for a file of the page that is not there': [404, { path: '/assets/none.js', method: 'GET' }],
    'for a file elsewhere': [404, { path: '/assets/..%2f..%2fmain.js', method: 'GET' }],
    'for the files of the project': [404, { path: '/.env.production.local', method: 'GET' }],
  }
  it('refuses what does not come from its page', async (context) => {
    const { address, authorization } = await start(context)
    for (const [what, [status, asked, withKey = true]] of Object.entries(refused))
      await context.test(`a request ${what}`, async () => {
        const headers = { ...(withKey ? { authorization } : {}), ...asked.headers }
        const answer = await ask(address, { ...asked, headers })
        assert.equal(answer.status, status, answer.text)
        for (const canary of CANARIES) assert.ok(!answer.text.includes(canary))
        assert.ok(!answer.text.includes('fernhollow'), answer.text)
      })
  })

  it('opens no file outside of the project, and writes none', async (context) => {
    const { address, authorization } = await start(context)
    const open = { path: '/api/open', headers: { authorization }, body: '{"file":"../../etc/hostname","line":1}' }
    assert.equal((await ask(address, open)).text, '{"opened":false}')
    const edit = { setting: 'night.places', stage: '../../x', local: false, text: '3' }
    const preview = await ask(address, {
      path: '/api/edit/preview',
      headers: { authorization },
      body: JSON.stringify(edit),
    })
    assert.equal(preview.status, 422)
    assert.match(preview.text, /stage-unknown/)
  })

  it('lets nothing be loaded from elsewhere, framed or kept', async (context) => {
    const { address } = await start(context)
    const { headers, text } = await ask(address, { path: '/', method: 'GET' })
    const policy = String(headers['content-security-policy'])
    assert.match(policy, /^default-src 'none'; script-src 'self'; style-src 'self' 'nonce-[\w-]+'; connect-src 'self'/)
    assert.deepEqual(
      [headers['cache-control'], headers['x-frame-options'], headers['referrer-policy']],
      ['no-store', 'DENY', 'no-referrer'],
    )
    const again = await ask(address, { path: '/', method: 'GET' })
    assert.notEqual(text, again.text)
  })
})
