import assert from 'node:assert/strict'
import { existsSync, mkdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import type { Vite } from '@mappa/tests/support/border/try-attempt'
import { importCompat } from '@mappa/tests/support/compat'
import { filesIn } from '@mappa/tests/support/page-project'
import { makeProject, type Project, run } from '@mappa/tests/support/project'
import mappa from 'mappa-settings/vite'
import { createLogger, type InlineConfig, type Plugin, type PluginOption } from 'vite'

const versions: readonly Vite[] = await Promise.all(
  ['vite', 'vite-7', 'vite-6'].map((name) => importCompat<Vite>(name)),
)
const KEY = 'slip-93ae77c0d1f4'
const PAGE = '<!doctype html><html><body><script type="module" src="/src/main.ts"></script></body></html>\n'
const DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  desk: { key: setting.string('Key that signs booking slips', { secret: true }) },
  visitor: { notice: setting.string('Line on top of the page', { public: true, default: '' }) },
})
`
const FILES = {
  'settings.definition.mjs': DEFINITION,
  '.env.production.local': `DESK_KEY=${KEY}\n`,
  '.env.staging.local': 'DESK_KEY=drill-5b1e880c44aa\n',
  'index.html': PAGE,
  'src/main.ts': "document.title = 'Night desk'\n",
  'src/server.js': 'export const render = () => 1\n',
}

/** Everything that Vite says, and a configuration that has it said there. */
function listen(root: string, config: InlineConfig): { readonly config: InlineConfig; readonly said: string[] } {
  const said: string[] = []
  const say = (message: string) => void said.push(message)
  const customLogger = { ...createLogger('silent'), info: say, warn: say, error: say }
  return { said, config: { configFile: false, logLevel: 'info', customLogger, root, ...config } }
}

const writeLeak = (root: string, file: string) => {
  mkdirSync(dirname(join(root, file)), { recursive: true })
  writeFileSync(join(root, file), `<p>${KEY}</p>`)
}

/** A plugin of somebody else that renders a page when its build has ended. */
const prerender = (root: string, file: string, more: Partial<Plugin> = {}): Plugin => ({
  name: 'prerender',
  closeBundle: () => writeLeak(root, file),
  ...more,
})

const ENVIRONMENTS: InlineConfig = {
  environments: {
    client: { build: { outDir: 'dist/client' } },
    ssr: { build: { outDir: 'dist/server', ssr: 'src/server.js' } },
  },
}

interface Moment {
  readonly how: string
  /** The file with the leak. */
  readonly file: string
  readonly run: (vite: Vite, root: string, config: (given: InlineConfig) => InlineConfig) => Promise<unknown>
}

const ofServer = (root: string): Plugin =>
  prerender(root, 'dist/client/about.html', { applyToEnvironment: ({ name }) => name === 'ssr' })
const buildAll = async (vite: Vite, config: InlineConfig) => (await vite.createBuilder(config)).buildApp()

/** A configuration that builds everything itself, and does something behind it. */
const buildAndThen = (last: () => void): InlineConfig => ({
  ...ENVIRONMENTS,
  plugins: [mappa()],
  builder: {
    async buildApp(builder) {
      for (const each of Object.values(builder.environments)) await builder.build(each)
      last()
    },
  },
})

/** When a leak gets onto the disk behind everything that a build makes itself. */
const MOMENTS: readonly Moment[] = [
  {
    how: 'an environment of a server has ended',
    file: 'dist/client/about.html',
    run: (vite, root, config) =>
      buildAll(vite, config({ ...ENVIRONMENTS, builder: {}, plugins: [mappa(), ofServer(root)] })),
  },
  {
    how: 'an environment of a server has ended, with plugins that all share',
    file: 'dist/client/about.html',
    run: (vite, root, config) =>
      buildAll(
        vite,
        config({ ...ENVIRONMENTS, builder: { sharedConfigBuild: true }, plugins: [mappa(), ofServer(root)] }),
      ),
  },
  {
    how: 'a second build of the same process has ended',
    file: 'dist/about.html',
    async run(vite, root, config) {
      await vite.build(config({ plugins: [mappa()] }))
      const plugins = [mappa(), prerender(root, 'dist/about.html')]
      await vite.build(config({ plugins, build: { outDir: 'dist-server', ssr: 'src/server.js' } }))
    },
  },
  {
    how: 'the configuration has built everything',
    file: 'dist/client/about.html',
    run: (vite, root, config) => buildAll(vite, config(buildAndThen(() => writeLeak(root, 'dist/client/about.html')))),
  },
  {
    how: 'the configuration has built everything, and fails',
    file: 'dist/client/about.html',
    run: (vite, root, config) =>
      buildAll(
        vite,
        config(
          buildAndThen(() => {
            writeLeak(root, 'dist/client/about.html')
            throw new Error('the dome is closed')
          }),
        ),
      ),
  },
  {
    how: 'a plugin has ended that comes behind all others',
    file: 'dist/about.html',
    run(vite, root, config) {
      const late = prerender(root, 'dist/about.html', {
        closeBundle: { order: 'post', sequential: true, handler: () => writeLeak(root, 'dist/about.html') },
      })
      const pushing: Plugin = {
        name: 'pushing',
        configResolved: (resolved) => void (resolved.plugins as Plugin[]).push(late),
      }
      return vite.build(config({ plugins: [mappa(), pushing] }))
    },
  },
  {
    how: 'a plugin has failed',
    file: 'dist/about.html',
    run(vite, root, config) {
      const failing = prerender(root, 'dist/about.html', {
        closeBundle() {
          writeLeak(root, 'dist/about.html')
          throw new Error('the dome is closed')
        },
      })
      return vite.build(config({ plugins: [mappa(), failing] }))
    },
  },
  {
    how: 'a plugin has failed while it was written',
    file: 'dist/about.html',
    run(vite, root, config) {
      const failing: Plugin = {
        name: 'prerender',
        writeBundle() {
          writeLeak(root, 'dist/about.html')
          throw new Error('the dome is closed')
        },
      }
      return vite.build(config({ plugins: [failing, mappa()] }))
    },
  },
  {
    how: 'a plugin has failed that comes before all others',
    file: 'dist/about.html',
    run(vite, root, config) {
      const handler = () => {
        writeLeak(root, 'dist/about.html')
        throw new Error('the dome is closed')
      }
      const failing = prerender(root, '', { closeBundle: { order: 'pre', sequential: true, handler } })
      return vite.build(config({ plugins: [mappa(), failing] }))
    },
  },
]

const makePage = (context: TestContext, more: Record<string, string> = {}): Project =>
  makeProject(context, { ...FILES, ...more })

describe('a build is searched to its end', () => {
  for (const vite of versions)
    for (const { how, file, run } of MOMENTS)
      it(`${how}: Vite ${vite.version}`, async (context) => {
        const { root } = makePage(context)
        const { said } = await refuse(root, (config) => run(vite, root, config))
        assert.ok(existsSync(join(root, file)))
        assert.match(said, new RegExp(`value-in-page[\\s\\S]*${file}[\\s\\S]*leaks-on-disk`))
        assert.ok(!said.includes(KEY))
      })
})

/** Runs what has to fail, and gives back all that was said, the error included. */
async function refuse(root: string, run: (config: (given: InlineConfig) => InlineConfig) => Promise<unknown>) {
  const all: string[] = []
  const error = await run((given) => {
    const { config, said } = listen(root, given)
    all.push('')
    Object.defineProperty(all, all.length - 1, { get: () => said.join('\n') })
    return config
  }).then(
    () => null,
    (thrown: Error) => thrown,
  )
  assert.ok(error !== null, `It did not fail: ${all.join('\n')}`)
  return { said: [...all, error.message].join('\n') }
}

describe('one configuration for several builds', () => {
  const show = (value: string): InlineConfig => ({ define: { __SHOWN__: JSON.stringify(value) } })
  for (const vite of versions) {
    it(`keeps the values of two stages apart: Vite ${vite.version}`, async (context) => {
      const { root } = makePage(context, { 'src/main.ts': 'document.title = __SHOWN__\n' })
      const plugins = [mappa()]
      const start = (mode: string, shown: string, given: PluginOption[] = plugins) => {
        const config = { ...show(shown), mode, plugins: given, build: { outDir: `dist-${mode}` } }
        return vite.build(listen(root, config).config).then(
          () => 'written',
          ({ message }: Error) => message,
        )
      }
      const [production, staging] = await Promise.all([start('production', KEY), start('staging', 'tonight')])
      assert.match(production, /value-in-page/)
      assert.equal(staging, 'written')
      assert.ok(!existsSync(join(root, 'dist-production/index.html')))
      const [other, one] = await Promise.all([start('staging', KEY), start('production', 'tonight')])
      // Of another stage, it is no secret here.
      assert.deepEqual([other, one], ['written', 'written'])
      const spread = [...mappa()]
      const both = await Promise.all([start('production', KEY, spread), start('staging', 'tonight', spread)])
      assert.match(both.join('\n'), /plugin-shared/)
      assert.ok(!existsSync(join(root, 'dist-production/assets')) || !readsKey(root))
    })
  }
})

interface Change {
  readonly how: string
  readonly before?: Readonly<Record<string, string>>
  readonly change: Readonly<Record<string, string>>
  /** What the build says. */
  readonly told: RegExp
  /** The value that no page may have any more. */
  readonly value: string
}

const CHANGES: readonly Change[] = [
  {
    how: 'a secret that has changed',
    before: { 'public/n.txt': 'tonight 77 stars\n' },
    change: { '.env.production.local': 'DESK_KEY="tonight 77 stars"\n' },
    told: /value-in-page/,
    value: 'tonight 77 stars',
  },
  {
    how: 'a public setting that has become a secret',
    before: {
      '.env.production': 'VISITOR_NOTICE="the dome is open until two"\n',
      'src/main.ts': "import { settings } from 'virtual:mappa/browser'\ndocument.title = settings.visitor.notice\n",
    },
    change: {
      'settings.definition.mjs': DEFINITION.replace("public: true, default: ''", 'secret: true, optional: true'),
    },
    told: /read-not-public/,
    value: 'the dome is open until two',
  },
]

describe('a build that watches tells what is on the disk from before, after', () => {
  for (const vite of versions)
    for (const { how, before, change, told, value } of CHANGES)
      it(`${how}: Vite ${vite.version}`, async (context) => {
        const page = makePage(context, before)
        const { config, said } = listen(page.root, { plugins: [mappa()], build: { watch: {} } })
        const watcher = (await vite.build(config)) as { close: () => Promise<void> }
        context.after(() => watcher.close())
        await until(said, /no value of a private setting found/)
        for (const [file, text] of Object.entries(change)) page.write(file, text)
        await until(said, told)
        // Some versions empty the directory before they build.
        for (const [file] of Object.entries(filesIn(join(page.root, 'dist'))).filter(([, text]) =>
          text.includes(value),
        ))
          await until(said, new RegExp(`dist/${file}[\\s\\S]*leaks-on-disk`))
        // What was not built anew is not said to be clean.
        assert.equal(said.join('\n').split('no value of a private setting found').length, 2)
        assert.ok(!said.join('\n').includes(value))
      })
})

async function until(said: readonly string[], what: RegExp): Promise<void> {
  for (let tries = 0; !what.test(said.join('\n')) && tries < 300; tries++)
    await new Promise((done) => setTimeout(done, 50))
  assert.match(said.join('\n'), what)
}

const readsKey = (root: string) => readFileSync(join(root, 'dist-production/index.html'), 'utf8').includes(KEY)

/** What a program does when its build is over: the code, all that it says in the end, and its exit code. */
const ENDS: readonly (readonly [string, string, RegExp, number])[] = [
  ['nothing', '', /^$/, 0],
  ['writes a page', "write('dist/about.html', 'tonight')", /1 more file searched at the end; no value/, 0],
  ['writes a page with a value', "write('dist/about.html', KEY)", /value-in-page[\s\S]*dist\/about\.html/, 1],
  ['says that all is well', "write('dist/about.html', KEY); process.exit(0)", /value-in-page/, 1],
  ['writes into a directory of pages', "write('.output/public/a.html', KEY)", /\.output\/public\/a\.html/, 1],
  ['writes pages for a server', "write('build/prerendered/a/__data.json', KEY)", /a\/__data\.json/, 1],
  ['writes a server', "write('.output/server/index.mjs', KEY)", /^$/, 0],
  ['writes what nobody can read', "write('dist/a.zip', 'PK\\x03\\x04 and no more')", /1 not read[\s\S]*a\.zip/, 0],
  ['writes over an older page', "write('build/client/a.html', KEY)", /build\/client\/a\.html/, 1],
  ['fails by itself', "write('dist/about.html', KEY); process.exit(3)", /value-in-page/, 1],
  ['has heard of a leak', "write('dist/about.html', KEY); await again().catch(() => {})", /^$/, 0],
]

describe('what a process writes when its build is over is searched when it ends', () => {
  for (const [what, code, told, exit] of ENDS)
    it(what, (context) => {
      const build = `import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import mappa from 'mappa-settings/vite'
import { build } from ${JSON.stringify(import.meta.resolve('vite'))}
const KEY = ${JSON.stringify(KEY)}
const again = () => build({ configFile: false, logLevel: 'silent', build: { emptyOutDir: false }, plugins: [mappa()] })
const write = (file, text) => {
  mkdirSync(dirname(file), { recursive: true })
  writeFileSync(file, text)
}
await again()
${code}
`
      const isOlder = what.includes('older')
      const { root } = makePage(context, {
        'build.mjs': build,
        ...(isOlder ? { 'build/client/a.html': 'tonight' } : {}),
      })
      // A directory whose files are written over does not change itself.
      if (isOlder) utimesSync(join(root, 'build/client'), 0, 0)
      const { status, stdout, stderr } = run(process.execPath, ['build.mjs'], root)
      assert.match(stdout + stderr, told)
      assert.equal(status, exit)
      assert.ok(!(stdout + stderr).includes(KEY))
    })
})

it('tells the command that searches what is written later, also from another directory', async (context) => {
  const page = makeProject(context, FILES)
  const { config, said } = listen(page.root, { plugins: [mappa()], build: { outDir: 'out put' } })
  await versions[0]!.build(config)
  const [, directory] = /not searched; cd (\S+) && mappa guard "out put" searches it/.exec(said.join('\n')) ?? []
  assert.equal(resolve(directory ?? ''), page.root, said.join('\n'))
  // Until then only what is wrong with the repository is told, such as a missing .gitignore.
  assert.doesNotMatch(page.mappa(['guard', 'out put']).stdout, /secret-in-(?:path|file)/)
  writeLeak(page.root, 'out put/later.html')
  const { status, stdout } = page.mappa(['guard', 'out put'])
  assert.deepEqual([status, stdout.includes('out put/later.html'), stdout.includes(KEY)], [1, true, false], stdout)
})
