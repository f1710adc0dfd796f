import assert from 'node:assert/strict'
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, it } from 'node:test'
import { version } from '../packages/mappa-cli/src/version.ts'
import { allProblems } from '../packages/mappa-settings/src/core/problems/catalogue/all.ts'
import { problemsPage } from '../scripts/write-problems.ts'
import { REPOSITORY } from './support/project.ts'

const LIBRARY = 'packages/mappa-settings/src'
const COMMAND = 'packages/mappa-cli/src'
const read = (file: string) => readFileSync(join(REPOSITORY, file), 'utf8')
const filesIn = (directory: string) =>
  readdirSync(join(REPOSITORY, directory), { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.tsx?$/.test(file))
    .map((file) => `${directory}/${file}`)
const withoutComments = (code: string) => code.replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, '')

/** What a file imports, and whether it does so when it is loaded. Types are gone by then. */
function importsOf(file: string): { readonly specifier: string; readonly atOnce: boolean }[] {
  const code = withoutComments(read(file))
  const statements = code.matchAll(/^(?:import|export) (?!type\b)(?:[^'";]*? from )?'([^']+)'/gm)
  const calls = code.matchAll(/(?:await|=>|return)\s+import\(\s*'([^'$]+)'\s*\)/g)
  return [
    ...[...statements].map(([, specifier]) => ({ specifier: specifier!, atOnce: true })),
    ...[...calls].map(([, specifier]) => ({ specifier: specifier!, atOnce: false })),
  ]
}

/** The directories below `src` of all that an entry loads when it is imported, and the packages. */
function loadedBy(entry: string): string[] {
  const files = new Set([`${LIBRARY}/${entry}`])
  const packages = new Set<string>()
  for (const file of files)
    for (const { specifier, atOnce } of importsOf(file))
      if (!atOnce) continue
      else if (!specifier.startsWith('.')) packages.add(specifier)
      else files.add(join(dirname(file), specifier))
  const directories = [...files].map((file) => dirname(file).slice(LIBRARY.length + 1))
  return [...new Set([...directories, ...packages])].sort()
}

/** What every program loads that defines settings and loads them. */
const START = [
  'core/definition',
  'core/definition/kinds',
  'core/envfile/reading',
  'core/layers',
  'core/problems',
  'core/problems/catalogue',
  'core/resolve',
  'core/secret',
  'core/template',
  'core/text',
  'node/fs',
  'node/load',
  'node/project',
  'node/sources',
  'node/sources/flags',
]
const TO_PAGES = ['core/page', 'core/problems/makers', 'core/values']
const without = (...parts: string[]) => START.filter((each) => !parts.some((part) => each.startsWith(part)))

/** What each entry loads. Whatever a row does not name costs nothing there, until it is needed. */
const ENTRIES: Readonly<Record<string, readonly string[]>> = {
  'core/index.ts': ['core', ...without('node', 'core/envfile'), ...TO_PAGES],
  'core/envfile/index.ts': [
    'core/envfile',
    ...without('node', 'core/definition', 'core/resolve'),
    'core/problems/makers',
  ],
  'core/derive/index.ts': [
    'core/derive',
    'core/envfile',
    ...without('node', 'core/envfile/reading', 'core/layers', 'core/resolve', 'core/template'),
    'core/problems/makers',
  ],
  'node/index.ts': ['node', 'node/page', ...START, ...TO_PAGES],
  'node/load/preload.ts': [...START, 'core/problems/makers', 'node/project/definition'],
  'browser/index.ts': ['browser', 'core/problems/catalogue', 'core/values'],
  'testing/index.ts': ['testing', 'core/store', ...without('node', 'core/envfile', 'core/definition/kinds')],
}

/** What may be imported from where; each room also from itself. Everything flows down. */
const BELOW: Readonly<Record<string, readonly string[]>> = {
  [`${LIBRARY}/core`]: [],
  [`${LIBRARY}/javascript`]: [],
  [`${LIBRARY}/browser`]: [`${LIBRARY}/core`],
  [`${LIBRARY}/testing`]: [`${LIBRARY}/core`],
  [`${LIBRARY}/node`]: [`${LIBRARY}/core`],
  [`${LIBRARY}/store`]: [`${LIBRARY}/core`, `${LIBRARY}/node`, `${LIBRARY}/etcd`],
  [`${LIBRARY}/etcd`]: [`${LIBRARY}/core`, `${LIBRARY}/node`],
  [`${LIBRARY}/bundler`]: [`${LIBRARY}/core`, `${LIBRARY}/node`, `${LIBRARY}/javascript`],
  [`${LIBRARY}/vite`]: [`${LIBRARY}/core`, `${LIBRARY}/node`, `${LIBRARY}/javascript`],
  [`${COMMAND}/project`]: [`${LIBRARY}/core`, `${LIBRARY}/node`, `${LIBRARY}/store`, `${COMMAND}/version.ts`],
  [`${COMMAND}/languages`]: [`${LIBRARY}/core`, `${LIBRARY}/javascript`],
  [`${COMMAND}/analysis`]: [
    `${LIBRARY}/core`,
    `${LIBRARY}/node`,
    `${LIBRARY}/javascript`,
    `${COMMAND}/project`,
    `${COMMAND}/languages`,
    `${COMMAND}/version.ts`,
  ],
  [`${COMMAND}/views`]: [`${LIBRARY}/core`, `${LIBRARY}/node`, `${COMMAND}/analysis`],
  [`${COMMAND}/web`]: [`${LIBRARY}/core`, `${COMMAND}/views`],
  [`${COMMAND}/page-server`]: [
    `${LIBRARY}/core`,
    `${LIBRARY}/node`,
    `${COMMAND}/project`,
    `${COMMAND}/analysis`,
    `${COMMAND}/views`,
    `${COMMAND}/distribution.ts`,
  ],
  [`${COMMAND}/language-server`]: [
    `${LIBRARY}/core`,
    `${LIBRARY}/node`,
    `${COMMAND}/project`,
    `${COMMAND}/languages`,
    `${COMMAND}/analysis`,
    `${COMMAND}/views`,
    `${COMMAND}/version.ts`,
  ],
  [`${COMMAND}/terminal`]: [
    `${LIBRARY}/core`,
    `${LIBRARY}/node`,
    `${COMMAND}/views`,
    `${COMMAND}/version.ts`,
    `${COMMAND}/command-line/exit-codes.ts`,
  ],
  [`${COMMAND}/command-line`]: [`${LIBRARY}/core`, `${LIBRARY}/node`, `${COMMAND}/project`, `${COMMAND}/analysis`],
  [`${COMMAND}/every-package`]: [
    `${LIBRARY}/core`,
    `${LIBRARY}/node`,
    `${COMMAND}/project`,
    `${COMMAND}/command-line`,
    `${COMMAND}/terminal`,
    `${COMMAND}/views`,
  ],
  [`${COMMAND}/commands`]: [`${LIBRARY}/core`, `${LIBRARY}/node`, COMMAND],
}

describe('the architecture', () => {
  for (const [entry, expected] of Object.entries(ENTRIES)) {
    it(`says what is loaded by ${entry}`, () => {
      assert.deepEqual(loadedBy(entry), [...expected].sort())
    })
  }

  for (const [room, others] of Object.entries(BELOW)) {
    it(`lets ${room} import only what is below`, () => {
      for (const file of filesIn(room))
        for (const { specifier } of importsOf(file)) {
          if (!specifier.startsWith('.')) continue
          const target = join(dirname(file), specifier)
          const isBelow = [room, ...others].some((each) => target === each || target.startsWith(`${each}/`))
          assert.ok(isBelow, `${file} imports ${specifier}`)
        }
    })
  }

  it('has a room for every file', () => {
    const rooms = [...Object.keys(BELOW), `${COMMAND}/main.ts`, `${COMMAND}/version.ts`, `${COMMAND}/distribution.ts`]
    for (const file of [...filesIn(LIBRARY), ...filesIn(COMMAND)])
      assert.ok(
        rooms.some((room) => file === room || file.startsWith(`${room}/`)),
        file,
      )
  })

  it('starts git in one place, and programs in few', () => {
    const starters = [...filesIn(LIBRARY), ...filesIn(COMMAND)].filter((file) =>
      /['"](?:node:)?child_process['"]\)|from '(?:node:)?child_process'/.test(
        withoutComments(read(file)).replace(/^import type .*/gm, ''),
      ),
    )
    assert.deepEqual(starters.sort(), [
      `${COMMAND}/analysis/guard/npm-package.ts`,
      `${COMMAND}/analysis/run/pipe.ts`,
      // The command that a person asks for.
      `${COMMAND}/analysis/run/start-process.ts`,
      `${COMMAND}/project/git/git.ts`,
    ])
    for (const file of starters.filter((each) => !each.endsWith('start-process.ts'))) {
      assert.match(read(file), /\bfindProgram\('(?:git|npm|mkfifo)'/, file)
      assert.doesNotMatch(read(file), /\b(?:spawn|spawnSync|exec\w*|fork)\(\s*['"`]/, file)
    }
    for (const file of [...filesIn(LIBRARY), ...filesIn(COMMAND)])
      assert.equal(/'git'/.test(withoutComments(read(file))) && !file.endsWith('git/git.ts'), false, file)
  })

  it('has no file over 300 lines', () => {
    for (const file of [...filesIn(LIBRARY), ...filesIn(COMMAND), ...filesIn('bench')])
      assert.ok(read(file).split('\n').length <= 301, file)
  })

  it('has one version', () => {
    for (const name of ['mappa-settings', 'mappa-cli'])
      assert.equal((JSON.parse(read(`packages/${name}/package.json`)) as { version: string }).version, version, name)
  })

  it('documents every problem, and has none that nobody reports', () => {
    assert.equal(read('docs/problems.md'), problemsPage())
    const code = [...filesIn(LIBRARY), ...filesIn(COMMAND)]
      .filter((file) => !file.includes('/catalogue/'))
      .map(read)
      .join('\n')
    for (const name of Object.keys(allProblems())) assert.ok(code.includes(`'${name}'`), name)
  })

  it('names a test for every promise of security', () => {
    const rows = read('docs/security.md')
      .split('\n')
      .filter((line) => /^\| .*\]\(\.\.\//.test(line))
    assert.ok(rows.length > 10)
    for (const row of rows) {
      let file = ''
      for (const [, linked, quoted] of row.matchAll(/\]\(\.\.\/([^)]+)\)|"([^"]+)"/g)) {
        if (linked === undefined) assert.ok(read(file).includes(quoted!), `${quoted} in ${file}`)
        else file = linked
        assert.ok(read(file).length > 0, file)
      }
    }
  })

  it('prints in one place, and shows values in one', () => {
    for (const file of [...filesIn(LIBRARY), ...filesIn(COMMAND)]) {
      const prints = /\bconsole\.|process\.std(out|err)\.write/.test(withoutComments(read(file)))
      // Programs that load their settings have no command to print for them.
      const may = file.startsWith(`${COMMAND}/terminal/`) || file === `${LIBRARY}/node/load/load.ts`
      assert.equal(prints && !may, false, file)
    }
  })
})
