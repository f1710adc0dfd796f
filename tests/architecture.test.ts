import assert from 'node:assert/strict'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, it } from 'node:test'
import { allProblems } from '@mappa/core/problems/catalogue/all'
import { build } from 'esbuild'
import { entries } from '../scripts/entries.mjs'
import { problemsPage } from '../scripts/write-problems.ts'
import { REPOSITORY } from './support/project.ts'

const COMMAND = 'packages/mappa-cli/src'
const read = (file: string) => readFileSync(join(REPOSITORY, file), 'utf8')
const filesIn = (directory: string) =>
  readdirSync(join(REPOSITORY, directory), { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.(?:tsx?|mjs)$/.test(file) && !file.includes('node_modules'))
    .map((file) => `${directory}/${file}`)
const withoutComments = (code: string) => code.replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, '')

interface Manifest {
  readonly name: string
  readonly version: string
  readonly private?: boolean
  readonly exports?: Readonly<Record<string, string | { readonly default: string }>>
}
const manifestOf = (name: string) => JSON.parse(read(`packages/${name}/package.json`)) as Manifest

/**
 * The house: each package, the packages of ours that it may import, and what it may import of others when it is loaded. Everything
 * flows down. What is not in the list is imported by nobody.
 */
const HOUSE: Readonly<Record<string, { readonly ours: readonly string[]; readonly others: readonly string[] }>> = {
  core: { ours: [], others: [] },
  search: { ours: ['core'], others: ['node:stream'] },
  source: { ours: ['core'], others: ['jsonc-parser', '@babel/parser', '@babel/types', 'yaml', '@lezer/common'] },
  node: { ours: ['core'], others: ['node:path', 'node:child_process', 'jsonc-parser'] },
  'mappa-settings': {
    ours: ['core', 'node', 'search', 'source'],
    others: [
      'node:crypto',
      'node:fs',
      'node:module',
      'node:path',
      'node:url',
      'vite',
      '@babel/parser',
      '@jridgewell/sourcemap-codec',
    ],
  },
  'mappa-cli': { ours: ['core', 'node', 'search', 'source'], others: [] },
}
/** What the library may import of the engine for source code: that of JavaScript alone. */
const SOURCE_OF_LIBRARY = /^@mappa\/source\/javascript\//

const PACKAGES = readdirSync(join(REPOSITORY, 'packages'))
const SOURCES = PACKAGES.flatMap((name) => filesIn(`packages/${name}/src`))
const PUBLISHED = ['mappa-settings', 'mappa-cli']
const TESTS = PACKAGES.filter((name) => existsSync(join(REPOSITORY, `packages/${name}/tests`))).flatMap((name) =>
  filesIn(`packages/${name}/tests`).filter((file) => !file.includes('/tests/sources/')),
)
/** What lies beside the packages, and may import them by name. */
const OUTSIDE = ['tests', 'bench', 'scripts', 'examples']
/** What a build makes a file of, and nobody imports. */
const BUILT_ALONE = ['@mappa/core/resolve/guarded']

interface Import {
  readonly specifier: string
  /** False where it is imported only when something runs. */
  readonly atOnce: boolean
  readonly isType: boolean
}

/** All that a file imports. Types are gone when it is loaded. */
function importsOf(file: string): readonly Import[] {
  const code = withoutComments(read(file))
  const statements = code.matchAll(/^(?:import|export) (type\b)?(?:[^'";]*? from )?'([^'$]+)'/gm)
  const calls = code.matchAll(/\bimport\(\s*'([^'$]+)'\s*\)/g)
  return [
    ...[...statements].map(([, type, specifier]) => ({
      specifier: specifier!,
      atOnce: type === undefined,
      isType: type !== undefined,
    })),
    ...[...calls].map(([, specifier]) => ({ specifier: specifier!, atOnce: false, isType: false })),
  ]
}

/** The file that a specifier stands for; `null` for a package that is not ours. */
function targetOf(specifier: string, from: string): string | null {
  if (specifier.startsWith('.')) return join(dirname(from), specifier)
  const [, name, below = ''] = /^@mappa\/([^/]+)(.*)$/.exec(specifier) ?? []
  if (name === undefined) return null
  const target = manifestOf(name).exports?.[`.${below}`]
  assert.ok(typeof target === 'string', `${from} imports ${specifier}, which is not exported`)
  return join('packages', name, target)
}

/** The directories of all that an entry loads when it is imported, and the packages of others. */
function loadedBy(entry: string): string[] {
  const files = new Set([entry])
  const packages = new Set<string>()
  for (const file of files)
    for (const { specifier, atOnce } of importsOf(file)) {
      if (!atOnce) continue
      const target = targetOf(specifier, file)
      if (target === null) packages.add(specifier)
      else files.add(target)
    }
  const directories = [...files]
    .map((file) => dirname(file).replace(/^packages\/([^/]+)\/src/, '$1'))
    .filter((directory) => !directory.startsWith('mappa-settings'))
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
  'node/sources/environment',
  'node/sources/flags',
]
const TO_PAGES = ['core/page', 'core/values']
const without = (...parts: string[]) => START.filter((each) => !parts.some((part) => each.startsWith(part)))

/** What each entry loads of the private packages. Whatever a row does not name costs nothing there, until it is needed. */
const LOADED: Readonly<Record<string, readonly string[]>> = {
  index: ['core', 'core/credentials', ...without('node', 'core/envfile'), ...TO_PAGES],
  envfile: ['core/envfile', ...without('node', 'core/definition', 'core/resolve')],
  derive: [
    'core/derive',
    'core/envfile',
    'core/values',
    ...without('node', 'core/envfile/reading', 'core/layers', 'core/resolve', 'core/template'),
  ],
  node: ['core/credentials', 'node/page', ...START, ...TO_PAGES],
  preload: ['core', 'core/values', ...START, 'node/project/definition'],
  browser: ['core/problems/catalogue', 'core/values'],
  testing: ['core/store', 'core/values', ...without('node', 'core/envfile')],
}

/** What may be imported from where within the command; each room also from itself. */
const ROOMS: Readonly<Record<string, readonly string[]>> = {
  project: [],
  analysis: ['project'],
  views: ['analysis'],
  web: ['views'],
  'page-server': ['project', 'analysis', 'views', 'distribution.ts'],
  'language-server': ['project', 'analysis', 'views'],
  terminal: ['analysis', 'views', 'command-line/exit-codes.ts'],
  'command-line': ['project', 'analysis'],
  'every-package': ['project', 'command-line', 'commands/entry.ts', 'terminal', 'views'],
  commands: [''],
}

function mayImport(name: string, file: string, { specifier, atOnce, isType }: Import): boolean {
  const { ours, others } = HOUSE[name]!
  const target = targetOf(specifier, file)
  // What a command needs of others is its own affair; programs that start are not commands.
  if (target === null) return name === 'mappa-cli' || !atOnce || isType || others.includes(specifier)
  const owner = target.split('/')[1]!
  if (specifier.startsWith('.')) return owner === name
  if (name === 'mappa-settings' && owner === 'source' && !SOURCE_OF_LIBRARY.test(specifier)) return false
  return ours.includes(owner)
}

/** Programs in tests, which are text there, import files that do not exist. */
const isRelative = ({ specifier }: Import, file: string) =>
  specifier.startsWith('.') && existsSync(join(REPOSITORY, dirname(file), specifier))

describe('the architecture', () => {
  for (const [entry, expected] of Object.entries(LOADED)) {
    it(`says what is loaded by ${entry}`, () => {
      assert.deepEqual(loadedBy(`packages/mappa-settings/${entries[entry]!}`), [...expected].sort())
    })
  }

  for (const name of Object.keys(HOUSE)) {
    it(`lets ${name} import only what is below`, () => {
      for (const file of filesIn(`packages/${name}/src`))
        for (const each of importsOf(file))
          assert.equal(mayImport(name, file, each), true, `${file} imports ${each.specifier}`)
    })
  }

  it('has no other package, and none whose relative paths lead out of it', () => {
    assert.deepEqual([...PACKAGES].sort(), Object.keys(HOUSE).sort())
    for (const file of [...SOURCES, ...TESTS])
      for (const { specifier } of importsOf(file).filter((each) => isRelative(each, file)))
        assert.equal(join(dirname(file), specifier).split('/')[1], file.split('/')[1], `${file} imports ${specifier}`)
  })

  it('exports of private packages what others use, and nothing else', () => {
    const named = [...SOURCES, ...TESTS, ...OUTSIDE.flatMap(filesIn)].flatMap((file) =>
      [...read(file).matchAll(/'(@mappa\/([^/']+)[^']*)'/g)]
        .filter(([, , owner]) => !file.startsWith(`packages/${owner}/src/`))
        .map(([, specifier]) => specifier!),
    )
    const used = new Set(named)
    for (const name of PACKAGES) {
      const { private: isPrivate = false, exports: all = {} } = manifestOf(name)
      assert.equal(isPrivate, !PUBLISHED.includes(name), name)
      if (!isPrivate) continue
      for (const below of Object.keys(all)) {
        const specifier = `@mappa/${name}${below.slice(1)}`
        assert.ok(used.has(specifier) || BUILT_ALONE.includes(specifier), `nothing imports ${specifier}`)
      }
    }
  })

  for (const [room, below] of Object.entries(ROOMS)) {
    it(`lets ${room} of the command import only what is below`, () => {
      for (const file of filesIn(`${COMMAND}/${room}`))
        for (const { specifier } of importsOf(file)) {
          if (!specifier.startsWith('.')) continue
          const target = join(dirname(file), specifier).slice(COMMAND.length + 1)
          const isBelow = [room, ...below].some(
            (each) => each === '' || target === each || target.startsWith(`${each}/`),
          )
          assert.ok(isBelow, `${file} imports ${specifier}`)
        }
    })
  }

  it('has a room for every file of the command', () => {
    const rooms = [...Object.keys(ROOMS), 'main.ts', 'distribution.ts'].map((each) => `${COMMAND}/${each}`)
    for (const file of filesIn(COMMAND))
      assert.ok(
        rooms.some((room) => file === room || file.startsWith(`${room}/`)),
        file,
      )
  })

  it('starts git in one place, and programs in few', () => {
    const starters = SOURCES.filter((file) =>
      /['"](?:node:)?child_process['"]\)|from '(?:node:)?child_process'/.test(
        withoutComments(read(file)).replace(/^import type .*/gm, ''),
      ),
    )
    assert.deepEqual(starters.sort(), [
      `${COMMAND}/analysis/guard/npm-package.ts`,
      `${COMMAND}/analysis/run/pipe.ts`,
      // The command that a person asks for.
      `${COMMAND}/analysis/run/start-process.ts`,
      'packages/node/src/git/git.ts',
    ])
    for (const file of starters.filter((each) => !each.endsWith('start-process.ts'))) {
      assert.match(read(file), /\bfindProgram\('(?:git|npm|mkfifo)'/, file)
      assert.doesNotMatch(read(file), /\b(?:spawn|spawnSync|exec\w*|fork)\(\s*['"`]/, file)
    }
    for (const file of SOURCES)
      assert.equal(/'git'/.test(withoutComments(read(file))) && !file.endsWith('git/git.ts'), false, file)
  })

  it('has scripts that find what they import', async () => {
    const entryPoints = filesIn('scripts').filter((file) => !/\.d\.\w+$|^scripts\/(?:build|shape)\//.test(file))
    assert.ok(entryPoints.length > 20)
    // Plain JavaScript, whose imports no compiler of types checks. What is missing is an error of the bundler, which names the place.
    await build({
      entryPoints: entryPoints.map((file) => join(REPOSITORY, file)),
      outdir: 'nowhere',
      write: false,
      bundle: true,
      packages: 'external',
      platform: 'node',
      format: 'esm',
      logLevel: 'silent',
    })
  })

  it('has no file over 300 lines', () => {
    for (const file of [...SOURCES, ...filesIn('bench')]) assert.ok(read(file).split('\n').length <= 301, file)
  })

  it('has one version', () => {
    const [, version] = /'([^']+)'/.exec(read('packages/core/src/version.ts')) ?? []
    for (const name of PACKAGES) assert.equal(manifestOf(name).version, version, name)
  })

  it('documents every problem, and has none that nobody reports', () => {
    assert.equal(read('docs/problems.md'), problemsPage())
    const code = SOURCES.filter((file) => !file.includes('/catalogue/'))
      .map(read)
      .join('\n')
    for (const name of Object.keys(allProblems())) assert.ok(code.includes(`'${name}'`), name)
    // A catalogue that is put together of others keeps the last of two entries with one code.
    const catalogues = filesIn('packages/core/src/problems/catalogue').map(read).join('\n')
    const codes = [...catalogues.matchAll(/^ {2}'?([a-z][a-z0-9-]*)'?: (?:error|notice)\(/gm)].map(([, each]) => each)
    assert.ok(codes.length > 300, String(codes.length))
    assert.deepEqual(
      codes.filter((each, at) => codes.indexOf(each) !== at),
      [],
    )
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
    for (const file of SOURCES) {
      const prints = /(?<!\.)\bconsole\.|process\.std(out|err)\.write/.test(withoutComments(read(file)))
      // Programs that load their settings have no command to print for them.
      const may = file.startsWith(`${COMMAND}/terminal/`) || file === 'packages/node/src/load/load.ts'
      assert.equal(prints && !may, false, file)
    }
  })
})
