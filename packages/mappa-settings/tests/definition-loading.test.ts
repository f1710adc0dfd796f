import assert from 'node:assert/strict'
import { rmSync, symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import { makePage } from '@mappa/tests/support/page-project'
import { makeProject, type Project, REPOSITORY, run } from '@mappa/tests/support/project'
import { serve } from '@mappa/tests/support/serving'
import { SettingsError } from 'mappa-settings'
import { publicReplacements } from 'mappa-settings/bundler'

/** What this Node does with TypeScript by itself: nothing before 22.18. */
const READS_TYPESCRIPT = Boolean((process.features as { typescript?: unknown }).typescript)
const TSX = join(REPOSITORY, 'node_modules/tsx/dist/loader.mjs')

const definitionOf = (first = '', head = '') => `import { defineSettings, setting } from 'mappa-settings'
${first}
export default ${head}defineSettings({ dome: { url: setting.url('Address of the dome controller', { public: true }) } })
`
const TYPED = definitionOf("const stage: string = 'drill'\nvoid stage")
/** Syntax that has to be compiled; stripping types is not enough. */
const COMPILED = definitionOf("enum Mode { drill = 'drill' }\nvoid Mode")

function project(context: TestContext, file: string, text: string, withCommand = false): Project {
  const made = makeProject(context, {
    [file]: text,
    '.env': 'DOME_URL=http://127.0.0.1:4200\n',
    'app.mjs': 'console.log(process.env.DOME_URL)\n',
  })
  if (!withCommand) rmSync(join(made.root, 'node_modules/mappa-cli'))
  return made
}

const start = ({ root }: Project, ...loaders: string[]) =>
  run(process.execPath, [...loaders, '--import', 'mappa-settings/preload', 'app.mjs'], root)

describe('a program that is started with mappa-settings/preload', () => {
  const TS = 'settings.definition.ts'
  const cases: Readonly<
    Record<string, readonly [file: string, text: string, withCommand: boolean, loaders: string[]]>
  > = {
    'in JavaScript': ['settings.definition.mjs', definitionOf(), false, []],
    'in CommonJS': [
      'settings.definition.cjs',
      "const { defineSettings, setting } = require('mappa-settings')\nmodule.exports = defineSettings({ dome: { url: setting.url('Address') } })\n",
      false,
      [],
    ],
    'in TypeScript, by the loader of the command': [TS, TYPED, true, []],
    'in TypeScript that has to be compiled, by the loader of the command': [TS, COMPILED, true, []],
    'in TypeScript, by a loader that was started before': [TS, TYPED, false, ['--import', TSX]],
  }
  for (const [name, [file, text, withCommand, loaders]] of Object.entries(cases)) {
    it(`loads a definition ${name}`, (context) => {
      const made = project(context, file, text, withCommand)
      if (file.endsWith('.cjs')) made.write('package.json', `{ "mappa": { "settings": "${file}" } }`)
      const { status, stdout, stderr } = start(made, ...loaders)
      assert.deepEqual([status, stdout], [0, 'http://127.0.0.1:4200\n'], stderr)
    })
  }

  it('starts another one for another stage, which gets the values of that', (context) => {
    const made = project(context, 'settings.definition.mjs', definitionOf())
    made.write('.env.staging', 'DOME_URL=https://rehearsal.fernhollow.example\n')
    const child =
      "spawnSync(process.execPath, ['--import', 'mappa-settings/preload', 'app.mjs'], { stdio: 'inherit', env })"
    made.write(
      'both.mjs',
      `import { spawnSync } from 'node:child_process'\nfor (const stage of ['development', 'staging']) {\n  const env = { ...process.env, MAPPA_STAGE: stage }\n  ${child}\n}\nconsole.log(process.env.MAPPA_FILLED)\n`,
    )
    const { stdout, stderr } = run(process.execPath, ['--import', 'mappa-settings/preload', 'both.mjs'], made.root)
    assert.equal(stdout, 'http://127.0.0.1:4200\nhttps://rehearsal.fernhollow.example\ndevelopment DOME_URL\n')
    assert.match(stderr, /filled-for-other\n.* for staging they are not used: DOME_URL\./)
  })

  it('says what to do where nothing loads its TypeScript', (context) => {
    const { status, stdout, stderr } = start(project(context, TS, COMPILED))
    assert.deepEqual([status, stdout], [78, ''])
    assert.match(
      stderr,
      /definition-needs-loader\n {4}Node \d+\.\d+\.\d+ can't load the definition settings\.definition\.ts/,
    )
    assert.match(stderr, /→ Install mappa-cli/)
  })

  for (const [version, fits] of [
    ['0.1.0', true],
    ['0.1.7-beta.2', true],
    ['0.2.0', false],
    ['1.1.0', false],
    ['moon', false],
  ] as const)
    it(`${fits ? 'takes' : 'refuses'} the loader of mappa-cli ${version}`, (context) => {
      const made = project(context, TS, COMPILED)
      const exports = { './package.json': './package.json', './definition-loader': './loader.js' }
      made.write('node_modules/mappa-cli/package.json', JSON.stringify({ type: 'module', version, exports }))
      made.write(
        'node_modules/mappa-cli/loader.js',
        `export const runDefinition = () => import(${JSON.stringify(join(made.root, 'other.mjs'))})`,
      )
      made.write('other.mjs', definitionOf())
      const { status, stderr } = start(made)
      if (fits) assert.match(stderr, /definition-not-exported/)
      else assert.match(stderr, new RegExp(`mappa-cli ${version} is installed beside mappa-settings \\d`))
      assert.equal(status, 78)
    })

  it('says what is wrong in the definition, not that a loader is missing', (context) => {
    const broken = definitionOf('', '').replace('defineSettings({', 'defineSettingz({')
    const { status, stderr } = start(project(context, 'settings.definition.mjs', broken))
    assert.equal(status, 78)
    assert.match(stderr, /settings\.definition\.mjs.* definition-failed\n.*defineSettingz is not defined/)
  })

  for (const [file, withCommand] of [
    ['settings.definition.mjs', false],
    ['settings.definition.ts', true],
  ] as const)
    it(`says which functions setting has where one does not exist, in ${file}`, (context) => {
      const { status, stderr } = start(project(context, file, definitionOf().replace('.url(', '.ulr('), withCommand))
      assert.equal(status, 78)
      assert.match(
        stderr,
        new RegExp(
          `${file}:3:\\d+ {2}setting-function-unknown\n {4}setting\\.ulr does not exist\\. The functions of setting are base64, .*, uuid\\.\n {4}→ Did you mean setting\\.url\\?`,
        ),
      )
    })
})

describe('the command, where the library is not installed', () => {
  const other = definitionOf("import { moon } from 'moon'\nvoid moon")
  const cases: Readonly<Record<string, readonly [file: string, text: string]>> = {
    'that is compiled at once': ['settings.definition.ts', TYPED],
    'that imports another package': ['settings.definition.ts', other],
    'in JavaScript that imports another package': ['settings.definition.mjs', other],
  }
  for (const [name, [file, text]] of Object.entries(cases)) {
    it(`loads a definition ${name}`, (context) => {
      const made = project(context, file, text, true)
      made.write('node_modules/moon/package.json', '{ "name": "moon", "type": "module", "exports": "./index.js" }')
      made.write('node_modules/moon/index.js', "export const moon = 'full'\n")
      rmSync(join(made.root, 'node_modules/mappa-settings'))
      const { status, stdout, stderr } = made.mappa(['check', '--stage', 'development'])
      assert.equal(status, 0, stdout + stderr)
    })
  }
})

describe('the configuration of a bundler', () => {
  const codeOf = (root: string) => {
    try {
      return publicReplacements(root)['process.env.DOME_URL']
    } catch (error) {
      assert.ok(error instanceof SettingsError, String(error))
      return error.problems[0]!.code
    }
  }

  it('reads a changed definition again with the command installed', (context) => {
    const { root, write } = project(context, 'settings.definition.ts', COMPILED, true)
    assert.equal(codeOf(root), '"http://127.0.0.1:4200"')
    write(
      'settings.definition.ts',
      COMPILED.replaceAll('dome:', 'desk:').replace('{ public', "{ name: 'DOME_URL', public"),
    )
    write('.env', 'DOME_URL=http://127.0.0.1:4300\n')
    assert.equal(codeOf(root), '"http://127.0.0.1:4300"')
  })

  const parts: Readonly<Record<string, readonly [imported: string, file: string, before: string, after: string]>> = {
    'a file it imports by the name that will be made of it': [
      "import { site } from './site.js'",
      'site.ts',
      "export const site = 'dome'",
      "export const site = 'tower'",
    ],
    'a file it imports by a name of its package': [
      "import { site } from '#site'",
      'lib/site.mjs',
      "export const site = 'dome'",
      "export const site = 'tower'",
    ],
    'a package of the same repository': [
      "import { site } from 'fernhollow-sites'",
      'sites/index.js',
      "exports.site = 'dome'",
      "exports.site = 'tower'",
    ],
    'a file it reads by itself': [
      "import { readFileSync } from 'node:fs'\nconst site = readFileSync(new URL('./site.txt', import.meta.url), 'utf8')",
      'site.txt',
      'dome',
      'tower',
    ],
  }
  for (const [name, [imported, file, before, after]] of Object.entries(parts)) {
    it(`sees a change of ${name}`, (context) => {
      const text = `import { defineSettings, setting } from 'mappa-settings'
${imported}
export default defineSettings({ site: { [site]: setting.url('Where it is', { name: 'DOME_URL', public: true, default: \`https://\${site}.example\` }) } })
`
      const { root, write } = makeProject(context, {
        'package.json':
          '{ "type": "module", "imports": { "#site": { "import": "./lib/site.mjs", "require": "./lib/site.mjs" } } }',
        'settings.definition.ts': text,
        'sites/package.json': '{ "name": "fernhollow-sites", "main": "index.js" }',
        [file]: before,
      })
      symlinkSync(join(root, 'sites'), join(root, 'node_modules/fernhollow-sites'))
      assert.equal(codeOf(root), '"https://dome.example"')
      write(file, after)
      assert.equal(codeOf(root), '"https://tower.example"')
    })
  }

  it('refuses a changed definition that Node can not read again', (context) => {
    const { root, write } = project(context, 'settings.definition.mjs', definitionOf())
    assert.equal(codeOf(root), '"http://127.0.0.1:4200"')
    write('settings.definition.mjs', definitionOf('// changed'))
    assert.equal(codeOf(root), 'definition-changed')
  })

  it('says what to do where nothing loads its TypeScript', (context) => {
    const { root } = project(context, 'settings.definition.ts', TYPED)
    assert.equal(codeOf(root), READS_TYPESCRIPT ? '"http://127.0.0.1:4200"' : 'definition-needs-loader')
  })
})

describe('the plugin for Vite, without the command', () => {
  const shown = {
    'src/main.ts': "import { settings } from 'virtual:mappa/browser'\ndocument.title = settings.dome.url\n",
  }
  const ENV = { '.env.production': 'DOME_URL=https://dome.fernhollow.example/\n' }
  const definitions: Readonly<Record<string, Record<string, string>>> = {
    'in TypeScript that has to be compiled': { 'settings.definition.ts': COMPILED },
    'that imports files without endings': {
      'settings.definition.ts': definitionOf("import { about } from './about'\nvoid about"),
      'about.ts': 'export const about: string = "dome"\n',
    },
    'in JavaScript': { 'settings.definition.js': definitionOf() },
  }
  for (const [name, files] of Object.entries(definitions)) {
    it(`loads a definition ${name}`, async (context) => {
      const page = makePage(context, { ...shown, ...ENV, ...files })
      rmSync(join(page.root, 'node_modules/mappa-cli'))
      if (files['settings.definition.ts'] === undefined) rmSync(join(page.root, 'settings.definition.ts'))
      const texts = Object.values(await page.build()).join('\n')
      assert.match(texts, /https:\/\/dome\.fernhollow\.example/)
    })
  }

  it('reads again what a definition reads, and changes none of its texts', async (context) => {
    const page = makePage(context, { 'src/main.ts': shown['src/main.ts'].replace('dome.url', 'dome.motto') })
    page.write(
      'settings.definition.ts',
      `// 🔭 – the first night
import { readFileSync } from 'node:fs'
import { defineSettings, setting } from 'mappa-settings'
const motto: string = readFileSync(${JSON.stringify(join(page.root, 'motto.txt'))}, 'utf8')
export default defineSettings({ dome: { motto: setting.string('Above the door', { public: true, default: motto }) } })
`,
    )
    for (const motto of ["clear skies, from 'mappa-settings'", 'fog until noon']) {
      page.write('motto.txt', motto)
      assert.ok(
        Object.values(await page.build())
          .join('\n')
          .includes(motto),
      )
    }
  })

  it('says while serving that it may miss what a definition reads', async (context) => {
    const quiet = makePage(context, {
      ...shown,
      '.env': 'DOME_URL=https://dome.example',
      'settings.definition.ts': definitionOf(),
    })
    assert.doesNotMatch((await serve(context, quiet.root, {})).log, /definition-unwatched/)
    quiet.write('settings.definition.ts', definitionOf("import { readFileSync } from 'node:fs'\nvoid readFileSync"))
    const { log, page } = await serve(context, quiet.root, {})
    assert.match(log, /settings\.definition\.ts.* definition-unwatched\n.* imports node:fs, so it may depend on files/)
    assert.equal(page.status, 200)
  })

  it('loads a definition in CommonJS', async (context) => {
    const page = makePage(context, {
      ...shown,
      ...ENV,
      'settings.definition.js':
        "const { defineSettings, setting } = require('mappa-settings')\nmodule.exports = defineSettings({ dome: { url: setting.url('Address', { public: true }) } })\n",
    })
    page.write('package.json', '{}')
    rmSync(join(page.root, 'settings.definition.ts'))
    assert.match(Object.values(await page.build()).join('\n'), /https:\/\/dome\.fernhollow\.example/)
  })
})
