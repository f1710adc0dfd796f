import assert from 'node:assert/strict'
import fs, { existsSync, mkdirSync, readFileSync, symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { makeProject, type Project } from '@mappa/tests/support/project'
import type { Log } from 'sarif'
import { directoriesMatching } from '../src/project/workspace-patterns.ts'

const definitionOf = (key: string) =>
  JSON.stringify({
    settings: {
      dome: { url: { kind: 'url', description: 'Address of the dome controller' } },
      own: { [key]: { kind: 'string', secret: true, description: 'A key' } },
    },
  })
const valuesOf = (directory: string, key: string): Record<string, string> =>
  Object.fromEntries(
    ['development', 'staging', 'production'].flatMap((stage) => [
      [`${directory}/.env.${stage}`, `DOME_URL=https://${stage}.fernhollow.example\n`],
      [`${directory}/.env.${stage}.local`, `OWN_${key.toUpperCase()}=made-up-for-${stage}-canary\n`],
    ]),
  )
const FILES = {
  'package.json': JSON.stringify({ name: 'fernhollow', workspaces: ['services/*', '!services/old', 'tools/*'] }),
  '.gitignore': 'node_modules\n.env.local\n.env.*.local\n',
  'services/dome-api/package.json': '{ "name": "dome-api", "type": "module" }',
  'services/dome-api/settings.definition.json': definitionOf('token'),
  ...valuesOf('services/dome-api', 'token'),
  'services/night-desk/package.json': '{ "name": "night-desk" }',
  'services/night-desk/settings.definition.json': definitionOf('ledger'),
  ...valuesOf('services/night-desk', 'ledger'),
  'services/notes/package.json': '{ "name": "notes" }',
  'services/old/package.json': '{ "name": "old" }',
  'services/old/settings.definition.json': 'broken',
}
const fernhollow = (context: TestContext, files: Record<string, string> = {}): Project => {
  const project = makeProject(context, { ...FILES, ...files })
  project.git('init')
  return project
}

describe('a repository with packages', () => {
  it('is checked as a whole, and is calm where all is well', (context) => {
    const { status, stdout, stderr } = fernhollow(context).mappa(['check', '--all'])
    assert.deepEqual(
      [status, stdout, stderr],
      [
        0,
        '2 packages: OK\nWithout a definition: notes\nNo directory matches tools/*, which the workspaces name.\n',
        '',
      ],
    )
  })

  it('shows what is wrong in each package, also beside a broken definition', (context) => {
    const project = fernhollow(context, {
      'services/night-desk/.env.production': 'DOME_URL=dome\n',
      'services/rain/settings.definition.json': '{ "settings": { "rain": { "kind": "rain" } } }',
    })
    const { status, stdout, stderr } = project.mappa(['check', '--all'])
    assert.equal(status, 1)
    assert.match(
      stdout,
      /== night-desk \(services\/night-desk\)[\s\S]*services\/night-desk\/\.env\.production:1:10 {2}not-url/,
    )
    // An error alone stands below the package that it is in, and names its file as the directory one is in sees it.
    assert.match(stderr, /^== services\/rain \(services\/rain\)\n/)
    assert.match(stderr, / {2}services\/rain\/settings\.definition\.json:1:27 {2}setting-kind-unknown\n/)
    assert.ok(!stdout.includes('== services/rain'))
    assert.match(stdout, /\n3 packages, 2 with problems: night-desk, services\/rain\n/)
    assert.ok(!/dome-api/.test(stdout))
  })

  for (const [what, file, text] of [
    ['npm, as an object', 'package.json', JSON.stringify({ workspaces: { packages: ['services/dome-*'] } })],
    ['pnpm', 'pnpm-workspace.yaml', "packages:\n  - 'services/dome-*'\n"],
  ] as const)
    it(`is known by what it declares for ${what}`, (context) => {
      const project = fernhollow(context, { 'package.json': '{ "name": "fernhollow" }', [file]: text })
      assert.equal(project.mappa(['check', '--all']).stdout, '1 package: OK\n')
    })

  const chosen: Readonly<Record<string, readonly [words: readonly string[], stdout: RegExp, status: number]>> = {
    'by name': [['--package', 'dome-api'], /^1 package: OK\n$/, 0],
    'by a pattern of names': [['--package=*-desk'], /^1 package: OK\n$/, 0],
    'by directory': [['--package', 'services/*'], /^2 packages: OK\nWithout a definition: notes\n$/, 0],
    'by several patterns': [['--package', 'dome-api', '--package', 'night-desk'], /^2 packages: OK\n$/, 0],
  }
  for (const [what, [words, expected, code]] of Object.entries(chosen))
    it(`works on packages that are named ${what}`, (context) => {
      const { status, stdout } = fernhollow(context).mappa(['check', '--all', ...words])
      assert.match(stdout, expected)
      assert.equal(status, code)
    })

  it('says which package is meant where a name is none', (context) => {
    const { status, stderr } = fernhollow(context).mappa(['check', '--package', 'dome-apy'])
    assert.equal(status, 2)
    assert.match(stderr, /No package is called "dome-apy"[\s\S]*Did you mean dome-api\?/)
    const alone = makeProject(context, { 'package.json': '{}' }).mappa(['check', '--package', 'dome-api'])
    assert.equal(alone.status, 2)
    assert.match(alone.stderr, /workspaces-missing/)
  })

  it('is one answer as data and as SARIF', (context) => {
    const project = fernhollow(context, { 'services/night-desk/.env.production': 'DOME_URL=dome\n' })
    const { packages } = JSON.parse(project.mappa(['check', '--all', '--json']).stdout) as {
      packages: { package: string; directory: string; stages: { stage: string; problems: { code: string }[] }[] }[]
    }
    assert.deepEqual(
      packages.map((each) => [
        each.package,
        each.directory,
        each.stages.flatMap(({ problems }) => problems.map(({ code }) => code)),
      ]),
      [
        ['dome-api', 'services/dome-api', []],
        ['night-desk', 'services/night-desk', ['not-url']],
      ],
    )
    const { runs } = JSON.parse(project.mappa(['check', '--all', '--format', 'sarif']).stdout) as Log
    assert.deepEqual(
      runs.map(({ results = [] }) =>
        results.map((each) => each.locations?.[0]?.physicalLocation?.artifactLocation?.uri),
      ),
      [['services/night-desk/.env.production']],
    )
  })

  it('is surveyed, guarded, compared and written', (context) => {
    const project = fernhollow(context, {
      'scripts/rain.mjs': "export const rain = { apiKey: 'rain-7Qm2Zt94LwX0vKbP31sD' }\n",
      'services/notes/send.mjs': "export const api = { apiKey: 'notes-7Qm2Zt94LwX0vKbP31sD' }\n",
      'services/dome-api/.env.production':
        'DOME_URL=https://production.fernhollow.example\nOWN_TOKEN=made-up-for-all-canary\n',
      'services/dome-api/.env.example': '# Generated by mappa write example, of an older definition.\n',
    })
    const survey = project.mappa(['survey'])
    assert.equal(survey.status, 1)
    assert.match(survey.stdout, /== fernhollow \(\.\)[\s\S]*scripts\/rain\.mjs:1:/)
    assert.match(
      survey.stdout,
      /== notes \(services\/notes\)[\s\S]*API_KEY[\s\S]*4 packages, 2 with problems: fernhollow, notes\n/,
    )
    const guard = project.mappa(['guard'])
    assert.equal(guard.status, 1)
    assert.match(
      guard.stdout,
      /== dome-api[\s\S]*secret-not-ignored[\s\S]*2 packages, 2 with problems: dome-api, night-desk/,
    )
    // A key of one package in a file of another, and in a commit: looked for once, for all.
    project.write('services/night-desk/dome.txt', 'made-up-for-staging-canary\n')
    const { packages } = JSON.parse(project.mappa(['guard', '--history', '--json']).stdout) as {
      packages: { package: string; scanned: string[]; problems: { code: string; file: string }[] }[]
    }
    assert.deepEqual(
      packages.map((each) => each.package),
      ['dome-api', 'night-desk', 'the repository'],
    )
    const found = packages.map(({ problems }) => problems.filter(({ file }) => file.endsWith('dome.txt')).length)
    assert.deepEqual(found, [0, 0, 2])
    assert.ok(!packages[0]!.scanned.some((each) => /git tracks/.test(each)))
    assert.match(project.mappa(['compare', 'staging', 'production']).stdout, /== dome-api[\s\S]*== night-desk/)
    const written = project.mappa(['write', '--all', '--verify'])
    assert.equal(written.status, 1)
    assert.match(written.stdout, /2 packages, 1 with problems: dome-api/)
    assert.equal(project.mappa(['write', 'example']).status, 0)
    assert.ok(existsSync(join(project.root, 'services/night-desk/.env.example')))
    assert.ok(!(survey.stdout + guard.stdout).includes('canary'))
  })

  it('takes a value for the one package that declares its name', (context) => {
    const project = fernhollow(context)
    const run = (words: readonly string[]) =>
      project.mappa(['set', ...words, '--stage', 'staging'], {}, 'another-canary')
    assert.equal(run(['OWN_LEDGER']).status, 0)
    const file = join(project.root, 'services/night-desk/.env.staging.local')
    assert.equal(readFileSync(file, 'utf8'), 'OWN_LEDGER=another-canary\n')
    const both = run(['DOME_URL', 'https://dome.fernhollow.example'])
    assert.equal(both.status, 2)
    assert.match(both.stderr, /DOME_URL can be meant for several packages: dome-api, night-desk\./)
    assert.equal(run(['DOME_URL', 'https://dome.fernhollow.example', '--package', 'dome-api']).status, 0)
    const changed = readFileSync(join(project.root, 'services/dome-api/.env.staging'), 'utf8')
    assert.equal(changed, 'DOME_URL=https://dome.fernhollow.example\n')
  })

  it('is one project as long as no package has a definition', (context) => {
    const project = makeProject(context, {
      'package.json': '{ "workspaces": ["services/*"] }',
      'services/notes/package.json': '{ "name": "notes" }',
      'services/notes/send.mjs': "export const api = { apiKey: 'notes-7Qm2Zt94LwX0vKbP31sD' }\n",
    })
    assert.match(project.mappa(['survey']).stdout, /^Survey: 1 finding\n[\s\S]*services\/notes\/send\.mjs:1:/)
    assert.match(project.mappa(['check']).stderr, /definition-not-found/)
  })

  it('tells values of options from arguments, files from packages, and wrong words once', (context) => {
    const project = fernhollow(context, {
      'services/notes/send.mjs': "export const api = { apiKey: 'notes-7Qm2Zt94LwX0vKbP31sD' }\n",
    })
    const { runs } = JSON.parse(project.mappa(['survey', '--format', 'sarif']).stdout) as Log
    assert.deepEqual(
      runs[0]!.results!.map((each) => each.locations?.[0]?.physicalLocation?.artifactLocation?.uri),
      ['services/notes/send.mjs'],
    )
    const words = ['set', '--stage', 'staging', 'OWN_LEDGER']
    assert.equal(project.mappa(words, {}, 'another-canary').status, 0)
    const files = ['services/dome-api/.env.staging', 'services/night-desk/.env.staging']
    assert.match(project.mappa(['compare', ...files]).stdout, /^1 setting in services/)
    const wrong = project.mappa(['check', '--format', 'sarif', '--al'])
    assert.deepEqual([wrong.status, wrong.stdout], [2, ''])
    assert.equal(wrong.stderr.split('unknown option').length, 2)
  })

  it('has one hook for all packages', (context) => {
    const project = fernhollow(context)
    const { status, stdout } = project.mappa(['guard', '--install'])
    assert.deepEqual([status, stdout.split('\n').length], [0, 2])
    const staged = project.mappa(['guard', '--staged', '--repository'])
    assert.ok(!staged.stdout.includes('=='), staged.stdout)
  })

  it('tells of two packages with one name', (context) => {
    const project = fernhollow(context, { 'services/night-desk/package.json': '{ "name": "dome-api" }' })
    assert.match(
      project.mappa(['check', '--all']).stdout,
      /^2 packages: OK\n[\s\S]*Two packages are called dome-api\.\n/,
    )
  })

  it('leaves a project alone that has its own root, and a package that is worked in', (context) => {
    const project = fernhollow(context)
    const words = ['check', '--all', '--root', 'services/dome-api']
    assert.match(project.mappa(words).stdout, /^Settings for development: OK, 2 settings/)
  })

  it('is no larger than it is: links to its packages count once, and those out of it not at all', (context) => {
    const project = fernhollow(context, { 'package.json': '{ "workspaces": ["services/**"] }' })
    const other = makeProject(context, { 'settings.definition.json': definitionOf('token'), 'package.json': '{}' })
    symlinkSync('..', join(project.root, 'services/loop'))
    symlinkSync(other.root, join(project.root, 'services/elsewhere'))
    const { status, stdout } = project.mappa(['check', '--all'])
    assert.equal(status, 1)
    assert.match(stdout, /^3 packages, 1 with problems: old\n/)
    assert.match(stdout, /services\/elsewhere leads out of the repository, and is left out\./)
    assert.ok(!/Two packages/.test(stdout))
  })
})

/** The directories of a repository; `elsewhere` is a link out of it, `again` one to `services`. */
const TREE = [
  'services/dome',
  'services/desk',
  'services/dome-old',
  'services/.hidden',
  'tools/[a]',
  'tools/deep/inner',
]

const PATTERNS: readonly [patterns: readonly string[], directories: readonly string[], told?: string][] = [
  [['services/*'], ['services/desk', 'services/dome', 'services/dome-old']],
  [
    ['services/d?sk', './services//dome/'],
    ['services/desk', 'services/dome'],
  ],
  [
    ['services/*', '!services/*-old'],
    ['services/desk', 'services/dome'],
  ],
  [
    ['!services/*-old', 'services/**'],
    ['services', 'services/desk', 'services/dome'],
  ],
  [['{services,tools}/{dome,deep}'], ['services/dome', 'tools/deep']],
  [
    ['services/d[a-i]sk', 'services/d[!e]*'],
    ['services/desk', 'services/dome', 'services/dome-old'],
  ],
  [['**/inner'], ['tools/deep/inner'], 'elsewhere'],
  [['tools/**/**/**'], ['tools', 'tools/[a]', 'tools/deep', 'tools/deep/inner']],
  [['services/.hidden'], ['services/.hidden']],
  [['services/../tools/deep'], ['tools/deep']],
  [['again/dome'], ['services/dome']],
  [['loop/loop/loop/services/dome'], [], 'loop/loop/loop/services/dome'],
  [['elsewhere/*'], [], 'elsewhere elsewhere/*'],
  [['/**'], [], '/**'],
  [['/etc/*', '[[[['], [], '/etc/* [[[['],
  [['../**', 'services/../../*', 'C:/**', '..\\\\x'], [], '../** ..\\\\x C:/** services/../../*'],
  [[`{${'a,b}{'.repeat(20)}c,d}`], [], `{${'a,b}{'.repeat(20)}c,d}`],
  [
    [`${'*o'.repeat(30)}x`, `**/${'**/x/'.repeat(20)}**`],
    [],
    `elsewhere ${'*o'.repeat(30)}x **/${'**/x/'.repeat(20)}**`,
  ],
  [['', '.', '!'], []],
]

describe('patterns of workspaces', () => {
  for (const [patterns, directories, told = ''] of PATTERNS)
    it(`match what they name, and lead nowhere else: ${patterns.join(' ').slice(0, 60)}`, (context) => {
      const { root } = makeProject(context, { 'nodes/o/o/o': '' })
      const other = makeProject(context, { 'package/package.json': '{}' })
      for (const each of TREE) mkdirSync(join(root, each), { recursive: true })
      symlinkSync(other.root, join(root, 'elsewhere'))
      symlinkSync('services', join(root, 'again'))
      symlinkSync('.', join(root, 'loop'))
      const read = context.mock.method(fs, 'readdirSync')
      const found = directoriesMatching(root, patterns)
      const places = read.mock.calls.map((call) => String(call.arguments[0]))
      assert.deepEqual(found.directories, directories)
      assert.equal([...found.outside, ...found.unmatched].join(' '), told)
      assert.ok(places.every((each) => `${each}/`.startsWith(`${root}/`)))
      assert.ok(places.length <= TREE.length * 4, `${places.length} directories were read`)
    })
})
