import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { DEFINITION, makeProject, REPOSITORY } from '@mappa/tests/support/project'
import type { Log } from 'sarif'

const SCHEMA = join(REPOSITORY, 'node_modules/@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json')
// Both are CommonJS that exports a class in place of itself.
const require = createRequire(import.meta.url)
const Draft04 = require('ajv-draft-04') as typeof import('ajv').Ajv
const addFormats = require('ajv-formats') as (ajv: object) => void
const ajv = new Draft04({ strict: false, unicodeRegExp: false })
addFormats(ajv)
const validate = ajv.compile(JSON.parse(readFileSync(SCHEMA, 'utf8')) as object)

const SECRET = 'drill-canary-7Qm2Zt94'
const FILES = {
  'settings.definition.ts': DEFINITION,
  '.env.development': `DOME_URL=not-a-url\nDOME_KEY=${SECRET}\nDOME_MOTRS=yes\n`,
  'a dir/rain & sky.ts': `export const gauge = { apiKey: 'gauge-canary-1Lz08XvB', url: 'https://rain.fernhollow.example' }\n`,
  '.gitignore': 'node_modules\n',
}

/** A log that its schema accepts. */
function logOf(stdout: string): Log {
  const log = JSON.parse(stdout) as Log
  assert.ok(validate(log), JSON.stringify(validate.errors?.slice(0, 3)))
  for (const canary of [SECRET, 'gauge-canary-1Lz08XvB']) assert.ok(!stdout.includes(canary))
  return log
}
const resultsOf = (log: Log) =>
  log.runs[0]!.results!.map(({ ruleId, level, locations }) => {
    const { artifactLocation, region } = locations?.[0]?.physicalLocation ?? {}
    return [ruleId, level, artifactLocation?.uri, region?.startLine, region?.startColumn, region?.endColumn]
  })
const dome = (context: TestContext) => {
  const project = makeProject(context, FILES)
  project.git('init')
  return project
}

describe('--format sarif', () => {
  it('tells the problems of a check, with their ranges', (context) => {
    const { status, stdout } = dome(context).mappa(['check', '--format', 'sarif'])
    assert.equal(status, 1)
    assert.deepEqual(resultsOf(logOf(stdout)), [
      ['not-url', 'error', '.env.development', 1, 10, 19],
      ['name-near', 'warning', '.env.development', 3, 1, undefined],
    ])
  })

  it('tells the findings of a survey, one for each place', (context) => {
    const { status, stdout } = dome(context).mappa(['survey', '--format', 'sarif'])
    assert.equal(status, 1)
    assert.deepEqual(
      resultsOf(logOf(stdout)).map((each) => each.slice(0, 4)),
      [
        ['secret-in-code', 'error', 'a%20dir/rain%20%26%20sky.ts', 1],
        ['setting-in-code', 'warning', 'a%20dir/rain%20%26%20sky.ts', 1],
      ],
    )
  })

  it('tells what guard found, and where the files of a package lie in its repository', (context) => {
    const project = makeProject(
      context,
      Object.fromEntries(Object.entries(FILES).map(([file, text]) => [`dome/${file}`, text])),
    )
    project.git('init')
    project.write('dome/package.json', '{ "type": "module" }')
    const { status, stdout } = project.mappa(['guard', '--root', 'dome', '--format=sarif'])
    assert.equal(status, 1)
    const [first] = resultsOf(logOf(stdout))
    assert.deepEqual(first?.slice(0, 3), ['secret-not-ignored', 'error', 'dome/.env.development'])
  })

  it('is a log without results where all is well, and keeps its fingerprints when lines move', (context) => {
    const project = dome(context)
    const fingerprints = () =>
      logOf(project.mappa(['check', '--format', 'sarif']).stdout).runs[0]!.results!.map(
        (each) => each.partialFingerprints,
      )
    const before = fingerprints()
    project.write('.env.development', `# The dome\n\n${FILES['.env.development']}`)
    assert.deepEqual(fingerprints(), before)
    project.write('.env.development', `DOME_URL=http://127.0.0.1:4200\nDOME_KEY=${SECRET}\n`)
    const { status, stdout } = project.mappa(['check', '--format', 'sarif'])
    assert.deepEqual([status, resultsOf(logOf(stdout))], [0, []])
  })

  it('tells a wrong definition as well', (context) => {
    const project = dome(context)
    project.write('settings.definition.ts', 'export default 3\n')
    const { status, stdout } = project.mappa(['check', '--format', 'sarif'])
    assert.equal(status, 1)
    assert.equal(resultsOf(logOf(stdout))[0]?.[2], 'settings.definition.ts')
  })
})
