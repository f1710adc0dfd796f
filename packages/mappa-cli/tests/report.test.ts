import assert from 'node:assert/strict'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { after, before, describe, it, type TestContext } from 'node:test'
import { startChromium } from '@mappa/tests/support/chromium'
import { needs } from '@mappa/tests/support/programs'
import { DEFINITION, makeProject } from '@mappa/tests/support/project'
import { accessibilityFaults } from '@mappa/tests/support/view-page'
import type { Browser } from 'playwright-core'

let browser: Browser
before(async () => {
  if (needs('chromium-headless-shell').skip === false) browser = await startChromium()
})
after(() => browser?.close())

const SECRET = 'drill-canary-7Qm2Zt94'
const dome = (context: TestContext) =>
  makeProject(context, {
    'settings.definition.ts': DEFINITION,
    '.env': 'MAPS=https://maps.fernhollow.example\n',
    '.env.development': 'DOME_URL="${MAPS}/drill"\nSERVER_PORT=41_00\n',
    '.env.development.local': `DOME_KEY=${SECRET}\n`,
    '.env.production': 'DOME_URL=https://dome.fernhollow.example\nDOME_MOTORS=yes\n',
    '.env.staging': 'DOME_URL=https://rehearsal.fernhollow.example\nDOME_KEY=x\n',
  })

describe('a report of mappa view', needs('chromium-headless-shell'), () => {
  it('can be read without scripts, loads nothing, and holds no secret', async (context) => {
    const project = dome(context)
    const { status, stdout } = project.mappa(['view', '--out', 'report.html'])
    assert.equal(status, 1)
    assert.equal(stdout, 'Written: report.html (development 1 error, staging 1 error, production 1 error).\n')
    const text = readFileSync(join(project.root, 'report.html'), 'utf8')
    assert.ok(!text.includes(SECRET))
    assert.ok(!/<script|javascript:|\son\w+=|https?:\/\/(?![\w.-]+\.example)/i.test(text))
    const page = await browser.newPage({ javaScriptEnabled: false })
    context.after(() => page.close())
    const said: string[] = []
    page.on('console', (message) => said.push(message.text()))
    page.on('request', (request) => said.push(request.url()))
    await page.goto(`file://${join(project.root, 'report.html')}`)
    assert.deepEqual(
      said.filter((each) => !each.startsWith('file:')),
      [],
    )
    const row = (name: string) => page.locator('tr', { has: page.locator('.row__name', { hasText: name }) }).innerText()
    assert.match(await row('SERVER_PORT'), /41_00\s+invalid\s+\.env\.development:2\s+4100\s+default\s+4100\s+default/)
    assert.match(await row('DOME_KEY'), /secret \w{3}\s+\.env\.development\.local:1\s+secret[\s\S]*missing/)
    const details = page.locator('details', { hasText: 'SERVER_PORT' })
    assert.match(await details.innerText(), /\.env\.development:2\s+"41_00"\s+in use[\s\S]*✗ port/)
  })

  it('is accessible', async (context) => {
    const project = dome(context)
    project.mappa(['view', '--out', 'report.html'])
    for (const colorScheme of ['light', 'dark'] as const) {
      const page = await browser.newPage({ colorScheme })
      context.after(() => page.close())
      await page.goto(`file://${join(project.root, 'report.html')}`)
      assert.deepEqual(await accessibilityFaults(page), [])
    }
  })

  it('is replaced by a later one, and never takes the place of anything else', (context) => {
    const project = dome(context)
    project.write('notes.html', '<p>What was said at the eyepiece</p>\n')
    const refused = project.mappa(['view', '--out', 'notes.html'])
    assert.deepEqual([refused.status, refused.stdout], [1, ''])
    assert.match(refused.stderr, /report-in-the-way\n\s+notes\.html exists, and is no report of mappa view\./)
    for (const file of ['report.html', 'report.md']) {
      project.mappa(['view', '--out', file])
      project.write('.env.production.local', 'DOME_KEY=open-sky-made-up-key\n')
      const { status, stdout } = project.mappa(['view', 'production', '--out', file])
      assert.deepEqual([status, stdout], [0, `Written: ${file} (production OK).\n`])
    }
    assert.match(
      readFileSync(join(project.root, 'report.md'), 'utf8'),
      /^### Settings of mappa\\-test|^### Settings of/,
    )
  })

  it('is written in Markdown for a comment', (context) => {
    const project = dome(context)
    const { status, stdout } = project.mappa(['view', 'development', 'production', '--format', 'markdown'])
    assert.equal(status, 1)
    const lines = stdout.split('\n').slice(1).join('\n')
    assert.equal(
      lines.replace(/secret \w{3}/g, 'secret abc'),
      `
**development**: 1 error
- error: SERVER\\_PORT must be a port, a whole number from 1 to 65535; it is "41\\_00". (\`.env.development:2\`) Write a number from 1 to 65535 and nothing else, such as 4100.

**production**: 1 error
- error: DOME\\_KEY is not set. Key the dome controller asks for. (\`.env.production.local:1\`) Add DOME\\_KEY=... to .env.production.local, which stays on this machine and out of git, or set it in the process environment.

| Setting | development | production |
| --- | --- | --- |
| \`SERVER_PORT\` | ❌ \`41_00\`, invalid | \`4100\`, default |
| \`DOME_URL\` | \`https://maps.fernhollow.example/drill\` | \`https://dome.fernhollow.example\` |
| \`DOME_KEY\` | secret abc | ❌ missing |
| \`DOME_MOTORS\` | \`false\`, default | \`true\` |

_Secrets are left out; equal ones have the same mark._
`,
    )
  })

  it('is given as data', (context) => {
    const { status, stdout } = dome(context).mappa(['view', '--json'])
    assert.equal(status, 1)
    const { stages, groups } = JSON.parse(stdout) as {
      stages: { name: string; errors: number }[]
      groups: { path: string; rows: { name: string; cells: object[] }[] }[]
    }
    assert.deepEqual(
      stages.map(({ name, errors }) => [name, errors]),
      [
        ['development', 1],
        ['staging', 1],
        ['production', 1],
      ],
    )
    assert.deepEqual(
      groups.map(({ path, rows }) => [path, rows.map(({ name }) => name)]),
      [
        ['server', ['SERVER_PORT']],
        ['dome', ['DOME_URL', 'DOME_KEY', 'DOME_MOTORS']],
      ],
    )
    assert.ok(!stdout.includes(SECRET))
  })

  const wrong: Readonly<Record<string, readonly [words: readonly string[], says: RegExp]>> = {
    'a port that is none': [['--port', 'desk'], /"desk" is no port\./],
    'a stage that is none': [
      ['dawn', '--format', 'html'],
      /There is no stage "dawn" \(named by the argument of mappa view\)/,
    ],
    'a format that is none': [['--format', 'pdf'], /Allowed choices are html, markdown/],
  }
  for (const [what, [words, says]] of Object.entries(wrong))
    it(`refuses ${what}`, (context) => {
      const { status, stdout, stderr } = dome(context).mappa(['view', ...words])
      assert.deepEqual([status, stdout], [2, ''])
      assert.match(stderr, says)
    })

  it('is not written into a directory that is not there', (context) => {
    const project = dome(context)
    const { status, stderr } = project.mappa(['view', '--out', 'none/report.html'])
    assert.equal(status, 1)
    assert.match(stderr, /none\/report\.html/)
    assert.ok(!existsSync(join(project.root, 'none')))
  })
})
