import assert from 'node:assert/strict'
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { EnvDocument } from 'mappa-settings/envfile'
import type { InlineConfig, Plugin } from 'vite'
import { isSimple, PLACES, type Place, type Spelled } from '../support/border/places.ts'
import type { Vite } from '../support/border/try-attempt.ts'
import { importCompat } from '../support/compat.ts'
import { configOf, makePage, type PageProject } from '../support/page-project.ts'
import { listener, raw } from '../support/serving.ts'
import { spell, VALUES } from '../support/spellings.ts'
import { type LongRun, makeRandom, type Random, withCleanup } from './long-run.ts'

type Context = Parameters<typeof makePage>[0]

/** What is tried in one project. */
interface Try {
  readonly context: Context
  readonly vite: Vite
  readonly page: PageProject
  readonly value: string
  readonly spelled: readonly Spelled[]
  readonly place: Place
}

const OTHER = 'drill-5b1e880c44aa7f'
const envOf = (value: string) => EnvDocument.from('').set('DESK_KEY', value).toString()
const setKey = ({ page }: Try, value: string) => {
  for (const stage of ['production', 'development']) page.write(`.env.${stage}.local`, envOf(value))
}
/** The numbers of the files that a text names as leaking. */
const listNamed = (said: string) =>
  new Set([...said.matchAll(/\bk(\d+)-.* {2}value-in-page/g)].map(([, at]) => Number(at)))

function mustNameAll({ spelled, value }: Try, said: string): void {
  const named = listNamed(said)
  const missed = spelled.filter(({ at }) => !named.has(at)).map(({ name }) => name)
  assert.deepEqual(missed, [], `${JSON.stringify(value)}\n${said.slice(0, 1500)}`)
  assert.ok(!said.includes(value), 'what was said holds the value')
}

async function build({ vite, page }: Try, config: InlineConfig = {}, plugins: Plugin[] = []): Promise<string> {
  const { said, logger } = listener()
  const whole = { ...configOf(page.root, { ...config, plugins }), customLogger: logger, logLevel: 'info' as const }
  const message = await vite.build(whole).then(() => '', String)
  return `${said.join('\n')}\n${message}`
}

const CONFIG: InlineConfig = { build: { sourcemap: true, assetsInlineLimit: 0 }, worker: { format: 'es' } }

/** Waits for something to be said. */
async function until(isSo: () => boolean): Promise<void> {
  for (let tries = 0; !isSo() && tries < 200; tries++) await new Promise((done) => setTimeout(done, 50))
}

/** Asks for each place, and says of which the answer was given. */
async function askAll(port: number, urls: readonly string[]): Promise<readonly string[]> {
  const open: string[] = []
  for (const url of urls) {
    const { status, text } = await raw(port, url, { 'sec-fetch-dest': 'empty' })
    if (status < 400 && !text.includes('@mappa/problems') && text !== '') open.push(url)
  }
  return open
}

async function serve(one: Try): Promise<number> {
  const server = await one.vite.createServer({
    ...configOf(one.page.root),
    logLevel: 'silent',
    server: { port: 0 },
    optimizeDeps: { noDiscovery: true },
  })
  one.context.after(() => server.close())
  await server.listen()
  return (server.httpServer!.address() as { port: number }).port
}

const writeRaw = ({ page, spelled }: Try, directory: string) => {
  mkdirSync(join(page.root, directory), { recursive: true })
  for (const { at, name, content } of spelled) writeFileSync(join(page.root, directory, `k${at}-${name}`), content)
}

/** Moments at which a value gets to a page. Those that write files themselves need no place. */
const MOMENTS: Readonly<Record<string, { readonly needsPlace: boolean; readonly run: (one: Try) => Promise<void> }>> = {
  'a build': {
    needsPlace: true,
    async run(one) {
      mustNameAll(one, await build(one, CONFIG))
    },
  },
  'a build that watches, after a change': {
    needsPlace: true,
    async run(one) {
      setKey(one, OTHER)
      const { said, logger } = listener()
      const config = { ...CONFIG, build: { ...CONFIG.build, watch: {} } }
      const whole = { ...configOf(one.page.root, config), customLogger: logger, logLevel: 'info' as const }
      const watcher = (await one.vite.build(whole)) as { close: () => Promise<void>; on: (...words: never[]) => void }
      one.context.after(() => watcher.close())
      await until(() => said.some((each) => each.includes('no value of a private setting found')))
      setKey(one, one.value)
      await until(() => listNamed(said.join('\n')).size === one.spelled.length)
      mustNameAll(one, said.join('\n'))
    },
  },
  'a server': {
    needsPlace: true,
    async run(one) {
      const port = await serve(one)
      assert.deepEqual(await askAll(port, one.spelled.map(one.place.url)), [], JSON.stringify(one.value))
    },
  },
  'a server, after a change': {
    needsPlace: true,
    async run(one) {
      setKey(one, OTHER)
      const port = await serve(one)
      const urls = one.spelled.map(one.place.url)
      assert.deepEqual(await askAll(port, urls), urls)
      setKey(one, one.value)
      for (let tries = 0; tries < 100 && (await askAll(port, urls.slice(0, 1))).length > 0; tries++)
        await new Promise((done) => setTimeout(done, 50))
      assert.deepEqual(await askAll(port, urls), [], JSON.stringify(one.value))
    },
  },
  'a preview, after a change': {
    needsPlace: true,
    async run(one) {
      setKey(one, OTHER)
      await build(one, CONFIG)
      setKey(one, one.value)
      const server = await one.vite.preview({ ...configOf(one.page.root), logLevel: 'silent', preview: { port: 0 } })
      one.context.after(() => server.close())
      const { port } = server.httpServer.address() as { port: number }
      const files = readdirSync(join(one.page.root, 'dist'), { recursive: true, encoding: 'utf8' })
      const named = one.spelled.map(({ at }) =>
        files.filter((each) => new RegExp(`(?:^|/)k${at}-.*\\.\\w+$|(?:^|/)k${at}-[\\w ]+$`).test(each)),
      )
      for (const [at, own] of named.entries()) {
        const urls = own.map((each) => `/${encodeURI(each)}`)
        const open = await askAll(port, urls)
        assert.ok(
          open.length < Math.max(1, urls.length),
          `${one.spelled[at]!.name}: ${urls} in ${JSON.stringify(one.value)}`,
        )
      }
    },
  },
  'a plugin before': {
    needsPlace: false,
    async run(one) {
      const emit: Plugin = {
        name: 'emit',
        enforce: 'pre',
        generateBundle() {
          for (const { at, name, content } of one.spelled)
            this.emitFile({ type: 'asset', fileName: `k${at}-${name}`, source: content })
        },
      }
      mustNameAll(one, await build(one, {}, [emit]))
    },
  },
  'a plugin behind': {
    needsPlace: false,
    async run(one) {
      mustNameAll(one, await build(one, {}, [{ name: 'late', closeBundle: () => writeRaw(one, 'dist/late') }]))
    },
  },
  'an environment of a server': {
    needsPlace: false,
    async run(one) {
      const late: Plugin = {
        name: 'late',
        applyToEnvironment: ({ name }) => name === 'ssr',
        closeBundle: () => writeRaw(one, 'dist/client/late'),
      }
      one.page.write('src/server.js', 'export default 1\n')
      const builder = await one.vite.createBuilder({
        ...configOf(one.page.root, { plugins: [late] }),
        builder: {},
        environments: {
          client: { build: { outDir: 'dist/client' } },
          ssr: { build: { outDir: 'dist/server', ssr: 'src/server.js' } },
        },
      })
      mustNameAll(one, await builder.buildApp().then(() => '', String))
    },
  },
}

/** So many spellings are tried in one project. */
const IN_ONE = 12

function chooseSpellings(random: Random, value: string, isNarrow: boolean): readonly Spelled[] {
  const all = spell(value).map(([name, content], at) => ({ at, name, content }))
  const fit = isNarrow ? all.filter(isSimple) : all
  // What is the same has one file in a build.
  const chosen = new Map(Array.from({ length: IN_ONE }, () => random.of(fit)).map((each) => [toKey(each), each]))
  return [...chosen.values()]
}

const toKey = ({ content }: Spelled) =>
  Buffer.from(content as string)
    .toString('latin1')
    .trim()

/** Each spelling of a value in each place of a page at each moment. */
export const borders: LongRun = {
  name: 'borders',
  promise: 'no value reaches a page, in whatever spelling, place and moment',
  short: 150,
  long: 6_000,
  async run(count, seed) {
    const versions = await Promise.all(['vite', 'vite-7', 'vite-6'].map((name) => importCompat<Vite>(name)))
    const random = makeRandom(seed)
    for (let done = 0, at = 0; done < count; at++) {
      const [how, { needsPlace, run }] = Object.entries(MOMENTS)[at % Object.keys(MOMENTS).length]!
      const [where, place] = random.of(Object.entries(PLACES))
      const vite = versions[random.below(versions.length)]!
      const [value] = fc.sample(VALUES, { numRuns: 1, seed: random.below(2 ** 31) })
      const spelled = chooseSpellings(random, value!, needsPlace && place.isNarrow)
      done += spelled.length
      if (spelled.length === 0) continue
      await withCleanup(async (context) => {
        const files = needsPlace ? Object.assign({}, ...spelled.map(place.files)) : {}
        const lines = needsPlace ? spelled.map(place.line) : []
        const page = makePage(context, { ...files, 'src/main.ts': `${lines.join('\n')}\nexport {}\n` }, vite)
        const one = { context, vite, page, value: value!, spelled, place }
        setKey(one, value!)
        await run(one).catch((error: Error) => {
          throw new Error(`${how}${needsPlace ? `, ${where}` : ''}, Vite ${vite.version}: ${error.message}`)
        })
      })
    }
  },
}
