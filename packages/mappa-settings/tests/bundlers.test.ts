import assert from 'node:assert/strict'
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { pathToFileURL } from 'node:url'
import { linkPackages } from '@mappa/tests/support/compat'
import { makeProject, REPOSITORY, run } from '@mappa/tests/support/project'
import { defineSettings, SettingsError, setting } from 'mappa-settings'
import { checkReads, publicReplacements } from 'mappa-settings/bundler'

const DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  desk: { key: setting.string('Key that signs booking slips', { secret: true }) },
  visitor: {
    places: setting.integer('Places at the eyepiece', { public: true, default: 12 }),
    map: setting.url('Where the star map is', { public: true, formerly: ['STAR_MAP'] }),
    notice: setting.string('Line on top of the page', { public: true, readAt: 'runtime', default: '' }),
  },
})
`
const FILES = {
  'settings.definition.ts': DEFINITION,
  '.env': 'VISITOR_MAP=https://maps.fernhollow.example/tonight\n',
  'src/main.js': "console.log('tonight', process.env.VISITOR_PLACES.length, process.env.VISITOR_MAP)\n",
}

/** The files that the recipes of the documentation consist of, by name. */
const RECIPES = Object.fromEntries(
  [...readFileSync(join(REPOSITORY, 'docs/bundlers.md'), 'utf8').matchAll(/```js\n\/\/ (\S+)\n([\s\S]*?)```/g)].map(
    ([, name, code]) => [name!, code!],
  ),
)

/** Those that take half a minute: `npm run runtimes` tries them too. */
const LARGE = ['webpack', 'Metro']

/** A bundler: the files of its recipe, and what runs it. The last leaves `dist/main.js`. */
const BUNDLERS: Readonly<Record<string, { files: readonly string[]; packages: readonly string[]; run: string }>> = {
  esbuild: { files: ['esbuild.config.mjs'], packages: ['esbuild'], run: "await import('./esbuild.config.mjs')" },
  Rollup: {
    files: ['rollup.config.mjs'],
    packages: ['rollup', '@rollup/plugin-replace'],
    run: `import { rollup } from 'rollup'
import config from './rollup.config.mjs'
await (await rollup(config)).write(config.output)`,
  },
  webpack: {
    files: ['webpack.config.mjs', 'check-reads.mjs'],
    packages: ['webpack'],
    run: `import webpack from 'webpack'
import config from './webpack.config.mjs'
const cache = { type: 'filesystem', cacheDirectory: import.meta.dirname + '/.cache' }
const compiler = webpack({ ...config, cache, infrastructureLogging: { level: 'none' } })
const stats = await new Promise((done, fail) => compiler.run((error, stats) => (error ? fail(error) : done(stats))))
await new Promise((done) => compiler.close(done))
if (stats.hasErrors()) throw new Error(stats.toString({ all: false, errors: true }))`,
  },
  Babel: {
    files: ['babel.config.cjs'],
    packages: ['@babel/core'],
    run: `import babel from '@babel/core'
import { mkdirSync, writeFileSync } from 'node:fs'
const { code } = await babel.transformFileAsync('src/main.js')
mkdirSync('dist', { recursive: true })
writeFileSync('dist/main.js', code)`,
  },
  Metro: {
    files: ['babel.config.cjs', 'metro.config.cjs'],
    packages: ['metro', 'metro-cache', 'metro-runtime', '@babel/core'],
    run: `import { mkdirSync, realpathSync } from 'node:fs'
import Metro from 'metro'
import { FileStore } from 'metro-cache'
const root = import.meta.dirname
const config = await Metro.loadConfig({ cwd: root, config: 'metro.config.cjs' }, {
  projectRoot: root, watchFolders: [root, realpathSync('node_modules/metro-runtime')], maxWorkers: 1, reporter: { update() {} }, cacheStores: [new FileStore({ root: root + '/.cache' })],
})
mkdirSync('dist', { recursive: true })
await Metro.runBuild(config, { entry: 'src/main.js', out: 'dist/main.js', dev: false, minify: false })`,
  },
}

describe('the recipe for', () => {
  for (const [name, { files, packages, run: runner }] of Object.entries(BUNDLERS)) {
    if (LARGE.includes(name) && process.env.MAPPA_TESTS_LARGE === undefined) continue
    const make = (context: TestContext) => {
      const recipe = Object.fromEntries(files.map((file) => [file, RECIPES[file]!]))
      const project = makeProject(context, { ...FILES, ...recipe, 'run.mjs': runner })
      linkPackages(project.root, packages)
      const bundle = () => run(process.execPath, ['run.mjs'], project.root)
      const shown = () => {
        const { status, stdout, stderr } = bundle()
        assert.equal(status, 0, stdout + stderr)
        return run(process.execPath, ['dist/main.js'], project.root).stdout
      }
      return { ...project, bundle, shown }
    }

    it(`${name} puts values in, and a changed one arrives`, (context) => {
      const { shown, write } = make(context)
      assert.equal(shown(), 'tonight 2 https://maps.fernhollow.example/tonight\n')
      write('.env', 'VISITOR_PLACES=7\nVISITOR_MAP=https://maps.fernhollow.example/later\n')
      assert.equal(shown(), 'tonight 1 https://maps.fernhollow.example/later\n')
    })

    it(`${name} refuses an unknown name and a secret`, (context) => {
      const { bundle, write } = make(context)
      write('.env.production.local', 'DESK_KEY=slip-93ae77c0d1\n')
      write('src/main.js', 'console.log(process.env.VISITOR_PLACE, process.env.DESK_KEY)\n')
      const { status, stdout, stderr } = bundle()
      assert.notEqual(status, 0)
      const said = stdout + stderr
      assert.match(said, /src\/main\.js:1:13\s+read-unknown[\s\S]*Did you mean VISITOR_PLACES\?/)
      assert.match(said, /src\/main\.js:1:40\s+read-not-public/)
      assert.doesNotMatch(said, /slip-93/)
    })
  }
})

describe('reads of page code', () => {
  const codesOf = (code: string, file: string, options?: Parameters<typeof checkReads>[2]) => {
    try {
      checkReads(code, file, options)
      return []
    } catch (error) {
      assert.ok(error instanceof SettingsError, String(error))
      return error.problems.map((each) => each.code)
    }
  }
  const cases: Readonly<Record<string, readonly [code: string, codes: readonly string[], file?: string]>> = {
    'of public settings': ['show(process.env.VISITOR_MAP, import.meta.env.VISITOR_PLACES)', []],
    'by a former name': ['show(process.env.STAR_MAP)', []],
    'in TypeScript': ['const map = process.env.VISITOR_MAP as string', [], 'main.ts'],
    'in JSX': ['const map = <a href={process.env.DESK_KEY}>map</a>', ['read-not-public'], 'main.tsx'],
    'behind a query': ['show(process.env.DESK_KEY)', ['read-not-public'], 'main.js?worker'],
    'of a name that no setting has': ['show(process.env.VISITOR_MOON)', ['read-unknown']],
    'of a secret': ['show(import.meta.env.DESK_KEY)', ['read-not-public']],
    'of what is known at runtime': ['show(process.env.VISITOR_NOTICE)', ['read-at-runtime']],
    'of what bundlers know': ['show(process.env.NODE_ENV, import.meta.env.DEV)', []],
    'of what the bundler was told': ['show(process.env.RELEASE)', []],
    'in brackets': ["show(process.env['VISITOR_MAP'])", ['read-not-replaced']],
    'with a question mark': ['show(process.env?.VISITOR_MAP)', ['read-not-replaced']],
    'behind a type': ['show((process.env as Env).VISITOR_MAP)', ['read-not-replaced'], 'main.ts'],
    'of the global object': ['show(globalThis.process.env.VISITOR_MAP)', ['read-not-replaced']],
    'taken out of it': ['const { VISITOR_MAP, DESK_KEY } = process.env', ['read-not-replaced', 'read-not-public']],
    'taken out of it with the rest': [
      'const { VISITOR_MAP, ...rest } = process.env',
      ['read-not-replaced', 'read-dynamic'],
    ],
    'by a name made at runtime': ['show(process.env[name])', ['read-dynamic']],
    'of the whole object': ['send(import.meta.env)', ['read-dynamic']],
    'of process behind a type': ['show((process as any).env.VISITOR_MAP)', ['read-not-replaced'], 'main.ts'],
    'of an environment that is imported': [
      "import { env } from 'node:process'\nshow(env.VISITOR_MAP)",
      ['read-dynamic'],
    ],
    'of process under another name': ['const q = process\nshow(q.env.VISITOR_MAP)', ['read-not-replaced']],
    'of process that is imported': ["import q from 'process'\nshow(q.env.DESK_KEY)", ['read-not-public']],
    'of an environment taken out of import.meta': [
      'const { env } = import.meta\nshow(env.VISITOR_MAP)',
      ['read-dynamic'],
    ],
    'of an object taken out of process': ['const { env } = process', ['read-dynamic']],
    'of an own process': ['const process = { env: {} }; show(process.env.DESK_KEY)', []],
    'that are no reads': ["process.env.TZ = 'UTC'; delete process.env.TZ; show('process.env.DESK_KEY')", []],
    'in comments': ['// process.env.DESK_KEY\n/* import.meta.env.DESK_KEY */', []],
    'of installed packages': ['show(process.env.DEBUG)', [], 'node_modules/lens/index.js'],
    'in what is no JavaScript': ['show(process.env.DESK_KEY', []],
  }
  for (const [name, [code, codes, file = 'main.js']] of Object.entries(cases)) {
    it(name, (context) => {
      const { root } = makeProject(context, FILES)
      assert.deepEqual(codesOf(code, join(root, 'src', file), { defined: ['process.env.RELEASE'] }), codes)
    })
  }

  it('in a file of another language are an error', (context) => {
    const { root } = makeProject(context, FILES)
    const vue = '<template><p>{{ process.env.VISITOR_MAP }}</p></template>\n'
    assert.deepEqual(codesOf(vue, join(root, 'src/Desk.vue')), ['read-in-other-language'])
    assert.deepEqual(codesOf('export const map = process.env.VISITOR_MAP', join(root, 'src/Desk.vue')), [])
  })

  it('need a parser, of mappa-cli or of Babel', (context) => {
    const { root } = makeProject(context, {})
    const settings = defineSettings({ places: setting.integer('Places', { public: true }) })
    const check = (directory: string) =>
      codesOf('show(process.env.PLACE)', join(root, directory, 'main.js'), { settings })
    assert.deepEqual(check('.'), ['read-unknown'])
    rmSync(join(root, 'node_modules/mappa-cli'))
    const projects = { none: [], parser: ['@babel/parser'], core: ['@babel/core'] }
    for (const [project, packages] of Object.entries(projects)) {
      mkdirSync(join(root, project))
      writeFileSync(join(root, project, 'package.json'), '{}')
      linkPackages(join(root, project), packages)
    }
    assert.deepEqual(check('none'), ['reads-need-parser'])
    assert.deepEqual(check('parser'), ['read-unknown'])
    assert.deepEqual(check('core'), ['read-unknown'])
  })

  it('are checked against the definition as it is now', (context) => {
    const { root, write } = makeProject(context, FILES)
    const check = () => codesOf('show(process.env.VISITOR_MOON)', join(root, 'src/main.js'))
    assert.deepEqual(check(), ['read-unknown'])
    write(
      'settings.definition.ts',
      DEFINITION.replace('visitor: {', "visitor: { moon: setting.string('Moon', { public: true }),"),
    )
    assert.deepEqual(check(), [])
  })
})

describe('arguments that are none', () => {
  const none = undefined as never
  const cases: Readonly<Record<string, readonly [call: () => unknown, sentence: RegExp]>> = {
    'code that is missing': [() => checkReads(none, 'main.js'), /the text of a file/],
    'a file that is missing': [() => checkReads('', none), /the path of the file/],
    'one text in the place of a list': [
      () => checkReads('', 'main.js', { defined: 'process.env.RELEASE' as never }),
      /defined of checkReads must be a list/,
    ],
    'one object in the place of a list': [
      () => publicReplacements('.', { objects: 'process.env' as never }),
      /objects of publicReplacements must be a list/,
    ],
    'a number in the place of a path': [() => publicReplacements(42 as never), /a definition, or the path/],
    'an address': [() => publicReplacements('https://desk.fernhollow.example/settings.ts'), /a file: URL or a path/],
    'an unknown option': [() => checkReads('', 'main.js', { define: [] } as never), /Did you mean defined\?/],
  }
  for (const [name, [call, sentence]] of Object.entries(cases)) it(name, () => assert.throws(call, sentence))
})

describe('where the definition of a bundler comes from', () => {
  const table = { 'process.env.VISITOR_PLACES': '"12"', 'process.env.MAPPA_BUILD_STAGE': '"production"' }
  const options = { objects: ['process.env'], stage: 'production', environment: {} }
  const definition = (body: string) => `import { defineSettings, setting } from 'mappa-settings'\n${body}`
  const visitor = "visitor: { places: setting.integer('Places', { public: true, default: 12 }) }"
  const plain = definition(`export default defineSettings({ ${visitor} })`)
  const cases: Readonly<
    Record<string, readonly [files: Record<string, string>, given: (root: string) => string | URL | undefined]>
  > = {
    'an absolute path': [{ 'settings.definition.ts': plain }, (root) => join(root, 'settings.definition.ts')],
    'a URL': [{ 'config/desk.ts': plain }, (root) => pathToFileURL(join(root, 'config/desk.ts'))],
    'a URL as a text': [{ 'desk.mts': plain }, (root) => pathToFileURL(join(root, 'desk.mts')).href],
    'the directory of the project': [{ 'src/settings.definition.ts': plain }, (root) => root],
    JavaScript: [{ 'settings.definition.js': plain }, (root) => root],
    JSON: [
      {
        'settings.definition.json':
          '{ "settings": { "visitor": { "places": { "kind": "integer", "description": "Places", "public": true, "default": 12 } } } }',
      },
      (root) => root,
    ],
    'several files': [
      {
        'settings.definition.ts': definition(
          "import { visitor } from './shared/visitor.ts'\nexport default defineSettings({ visitor })",
        ),
        'shared/visitor.ts': `import { setting } from 'mappa-settings'\nexport const visitor = { places: setting.integer('Places', { public: true, default: 12 }) }`,
      },
      (root) => root,
    ],
    'what package.json names': [
      { 'package.json': '{ "type": "module", "mappa": { "settings": "desk.ts" } }', 'desk.ts': plain },
      (root) => root,
    ],
  }
  for (const [name, [files, given]] of Object.entries(cases)) {
    it(name, (context) => {
      const { root } = makeProject(context, files)
      assert.deepEqual(publicReplacements(given(root), options), table)
    })
  }

  const wrong: Readonly<Record<string, readonly [files: Record<string, string>, given: string, code: string]>> = {
    'no such file': [{}, 'settings.definition.ts', 'definition-file-missing'],
    'a directory without one': [{}, '', 'definition-not-found'],
    'a file that throws': [{ 'desk.ts': "throw new Error('fog')" }, 'desk.ts', 'definition-failed'],
    'a file that is no TypeScript': [{ 'desk.ts': 'export default {' }, 'desk.ts', 'definition-failed'],
    'a file without a default': [{ 'desk.ts': 'export const desk = 1' }, 'desk.ts', 'definition-not-exported'],
  }
  for (const [name, [files, given, code]] of Object.entries(wrong)) {
    it(`refuses ${name}`, (context) => {
      const { root } = makeProject(context, files)
      assert.throws(
        () => publicReplacements(join(root, given), options),
        (error) => {
          assert.ok(error instanceof SettingsError, String(error))
          assert.deepEqual(
            error.problems.map((each) => each.code),
            [code],
          )
          return true
        },
      )
    })
  }
})
