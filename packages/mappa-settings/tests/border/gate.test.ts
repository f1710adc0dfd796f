import assert from 'node:assert/strict'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { join } from 'node:path'
import { describe, it, type TestContext } from 'node:test'
import type { Vite } from '@mappa/tests/support/border/try-attempt'
import { importCompat } from '@mappa/tests/support/compat'
import { makeProject } from '@mappa/tests/support/project'
import { listener } from '@mappa/tests/support/serving'
import mappa from 'mappa-settings/vite'
import type { InlineConfig, Plugin } from 'vite'

const versions: readonly Vite[] = await Promise.all(
  ['vite', 'vite-7', 'vite-6'].map((name) => importCompat<Vite>(name)),
)
const KEY = 'slip-93ae77c0d1f4'
const OTHER = 'Kd8mQ2zX7vB1nM5cT3yR'
const FILES = {
  'settings.definition.mjs': `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  desk: { key: setting.string('Key that signs booking slips', { secret: true }) },
  visitor: { notice: setting.string('Line on top of the page', { public: true, default: '' }) },
}, { directory: 'mounted' })
`,
  '.env.development.local': `DESK_KEY=${KEY}\n`,
  'index.html': '<!doctype html><html><body><script type="module" src="/src/main.ts"></script></body></html>\n',
  'src/main.ts': "document.title = 'Night desk'\n",
}

type Headers = Readonly<Record<string, string>>

/** A way to an answer that holds a value. */
interface Way {
  readonly how: string
  readonly files?: Readonly<Record<string, string>>
  readonly config?: InlineConfig
  readonly url: string
  readonly headers?: Headers
}

/** A middleware of another plugin. */
const answering = (
  order: Plugin['enforce'],
  answer: (end: (text: string) => void, write: (text: string) => void) => void,
): Plugin => ({
  name: 'answering',
  ...(order === undefined ? {} : { enforce: order }),
  configureServer({ middlewares }) {
    middlewares.use('/tonight', (_request, response) => {
      response.setHeader('content-type', 'text/plain')
      answer(
        (text) => response.end(text),
        (text) => response.write(text),
      )
    })
  },
})

const WAYS: readonly Way[] = [
  {
    how: 'the source map of a module whose types hold it',
    files: { 'src/main.ts': `type K = '${KEY}'\ndocument.title = 'Night desk' satisfies string as K | string\n` },
    url: '/src/main.ts',
  },
  {
    how: 'a file behind an alias',
    files: { 'data/k.txt': KEY },
    config: { resolve: { alias: { '/static': '/data' } } },
    url: '/static/k.txt',
  },
  {
    how: 'a mounted secret behind an alias',
    files: { 'mounted/DESK_KEY': KEY },
    config: { resolve: { alias: { '/envs': '/' } } },
    url: '/envs/mounted/DESK_KEY',
  },
  {
    how: 'a public script that is asked for as one',
    files: { 'public/old.js': `document.title = '${KEY}'\n` },
    url: '/old.js',
    headers: { 'sec-fetch-dest': 'script' },
  },
  {
    how: 'a piece of a public file',
    files: { 'public/n.txt': `${'star '.repeat(50)}${KEY}` },
    url: '/n.txt',
    headers: { range: 'bytes=240-' },
  },
  {
    how: 'an error with the line that is wrong',
    files: { 'src/main.ts': `const key = '${KEY}' + )\n` },
    url: '/src/main.ts',
  },
  {
    how: 'a style',
    files: { 'src/main.css': `h1::after { content: '${KEY}' }\n` },
    url: '/src/main.css?direct',
    headers: { 'sec-fetch-dest': 'style', accept: 'text/css' },
  },
  {
    how: 'the middleware of a plugin before',
    config: { plugins: [answering('pre', (end) => end(KEY))] },
    url: '/tonight',
  },
  {
    how: 'the middleware of a plugin behind',
    config: { plugins: [answering('post', (end) => end(KEY))] },
    url: '/tonight',
  },
  {
    how: 'an answer that is made piece by piece',
    config: {
      plugins: [
        answering(undefined, (end, write) => {
          write(`the ${KEY.slice(0, 8)}`)
          write(KEY.slice(8))
          end(' of tonight')
        }),
      ],
    },
    url: '/tonight',
  },
  {
    how: 'the first of many pieces',
    config: {
      plugins: [
        answering(undefined, (end, write) => {
          write(KEY)
          const others = setInterval(() => write(' and more'), 5)
          setTimeout(() => {
            clearInterval(others)
            end(' of tonight')
          }, 60)
        }),
      ],
    },
    url: '/tonight',
  },
  {
    how: 'base64 in a middleware',
    config: { plugins: [answering(undefined, (end) => end(Buffer.from(`.${KEY}.`).toString('base64')))] },
    url: '/tonight',
  },
]

/** What no part of what is seen may be: the value, and what it becomes. */
const SEEN = [KEY, OTHER].flatMap((each) => [each, Buffer.from(each).toString('base64').slice(4, -4)])
const mustBeHidden = (text: string) => {
  for (const each of SEEN) assert.ok(!text.includes(each), text.slice(0, 2000))
  for (const [, map] of text.matchAll(/base64,([\w+/=]+)/g))
    assert.ok(!Buffer.from(map!, 'base64').toString().includes(KEY), 'a source map holds it')
}

async function serve(context: TestContext, vite: Vite, root: string, config: InlineConfig = {}) {
  const { said, logger } = listener()
  const server = await vite.createServer({
    configFile: false,
    root,
    logLevel: 'info',
    customLogger: logger,
    ...config,
    plugins: [mappa(), ...(config.plugins ?? [])],
    server: { port: 0, ...config.server },
    optimizeDeps: { noDiscovery: true },
  })
  context.after(() => server.close())
  await server.listen()
  const { port } = server.httpServer!.address() as { port: number }
  return { server, said, ask: (url: string, headers: Headers = {}) => ask(port, url, headers) }
}

/** Asks as no browser would, with the path as it is. */
function ask(port: number, path: string, headers: Headers): Promise<{ status: number; text: string; etag: string }> {
  return new Promise((resolve) => {
    const asked = request({ port, path, headers }, (answer) => {
      let text = ''
      const finish = () => resolve({ status: answer.statusCode!, text, etag: String(answer.headers.etag) })
      answer.setEncoding('latin1').on('data', (piece: string) => {
        text += piece
      })
      answer.on('end', finish).on('error', finish).on('aborted', finish)
    })
    // An answer that is broken off may not have begun.
    asked.on('error', () => resolve({ status: 0, text: '', etag: '' })).end()
  })
}

describe('what a server answers passes one gate', () => {
  for (const vite of versions)
    for (const { how, files = {}, config, url, headers } of WAYS)
      it(`${how}: Vite ${vite.version}`, async (context) => {
        const { root } = makeProject(context, { ...FILES, ...files })
        const { ask: get, said } = await serve(context, vite, root, config)
        const { text, status } = await get(url, headers)
        mustBeHidden(text)
        // Some versions know no such address.
        const isTold = () => /value-in-page|env-file-served|entry-in-page/.test(said.join('\n'))
        if (status !== 404) await until(isTold, () => said.join('\n'))
        mustBeHidden(said.join('\n'))
      })
})

describe('what a server answers is what it would be without the gate, where nothing is wrong', () => {
  for (const vite of versions)
    it(`Vite ${vite.version}`, async (context) => {
      const { root } = makeProject(context, {
        ...FILES,
        'public/n.txt': '0123456789',
        'src/main.css': 'h1 { color: teal }\n',
      })
      const slow = answering(undefined, (end, write) => {
        write('one ')
        setTimeout(() => end('two'), 20)
      })
      const twice: Plugin = {
        name: 'twice',
        configureServer({ middlewares }) {
          middlewares.use('/moon', (_request, response, next) => {
            response.end('full')
            next()
          })
        },
      }
      const { ask: get } = await serve(context, vite, root, { plugins: [slow, twice] })
      const moon = await get('/moon', { accept: 'text/plain' })
      assert.deepEqual([moon.status, moon.text], [200, 'full'])
      assert.equal((await get('/n.txt')).text, '0123456789')
      const piece = await get('/n.txt', { range: 'bytes=2-4' })
      assert.deepEqual([piece.status, piece.text], [206, '234'])
      assert.deepEqual((await get('/n.txt', { range: 'bytes=20-' })).status, 416)
      assert.equal((await get('/tonight')).text, 'one two')
      const main = await get('/src/main.ts')
      assert.match(main.text, /Night desk/)
      const again = await get('/src/main.ts', { 'if-none-match': main.etag })
      assert.deepEqual([again.status, again.text], [304, ''])
      assert.match((await get('/src/main.css?direct', { accept: 'text/css' })).text, /color: teal/)
      assert.match((await get('/', { accept: 'text/html' })).text, /src="\/src\/main\.ts/)
      assert.equal((await get('/nothing.txt', { accept: 'text/plain' })).status, 404)
    })
})

describe('what was served before a change is looked at again', () => {
  for (const vite of versions)
    it(`Vite ${vite.version}`, async (context) => {
      const project = makeProject(context, {
        ...FILES,
        'src/main.ts': `document.title = '${OTHER}'\n`,
        'src/main.css': `h1::after { content: '${OTHER}' }\n`,
        'public/n.txt': OTHER,
      })
      const { ask: get, said } = await serve(context, vite, project.root)
      const urls = ['/src/main.ts', '/src/main.css', '/n.txt'] as const
      const before = new Map<string, string>()
      for (const url of urls) {
        const { text, etag } = await get(url)
        assert.ok(text.includes(OTHER))
        before.set(url, etag)
      }
      project.write('.env.development.local', `DESK_KEY=${OTHER}\n`)
      // Also where nobody asks again.
      await until(
        () => /src\/main\.ts[\s\S]*n\.txt|n\.txt[\s\S]*src\/main\.ts/.test(said.join('\n')),
        () => said.join('\n'),
      )
      for (const url of urls) mustBeHidden((await get(url, { 'if-none-match': before.get(url)! })).text)
    })
})

async function until(isSo: () => boolean, tell: () => string): Promise<void> {
  for (let tries = 0; !isSo() && tries < 200; tries++) await new Promise((done) => setTimeout(done, 50))
  assert.ok(isSo(), tell())
}

describe('what goes out beside answers', () => {
  for (const vite of versions) {
    it(`a server within another one, and its messages: Vite ${vite.version}`, async (context) => {
      const { root } = makeProject(context, { ...FILES, 'public/n.txt': KEY })
      const { said, logger } = listener()
      const server = await vite.createServer({
        configFile: false,
        root,
        customLogger: logger,
        plugins: [mappa()],
        server: { middlewareMode: true, ws: false },
        optimizeDeps: { noDiscovery: true },
      })
      context.after(() => server.close())
      await until(
        () => /n\.txt/.test(said.join('\n')),
        () => said.join('\n'),
      )
      const { hot } = server.environments.client
      const frame = `const key = '${KEY}' + )`
      hot.send({ type: 'error', err: { message: frame, stack: frame, frame } } as never)
      server.config.logger.error(frame)
      await until(
        () => said.some((each) => each.includes('value of DESK_KEY')),
        () => said.join('\n'),
      )
      mustBeHidden(said.join('\n'))
    })

    it(`a preview: Vite ${vite.version}`, async (context) => {
      const { root } = makeProject(context, { ...FILES, '.env.production.local': `DESK_KEY=${KEY}\n` })
      await vite.build({ configFile: false, root, logLevel: 'silent', plugins: [mappa()] })
      mkdirSync(join(root, 'dist/late'))
      writeFileSync(join(root, 'dist/late/n.txt'), KEY)
      const { said, logger } = listener()
      const server = await vite.preview({
        configFile: false,
        root,
        customLogger: logger,
        plugins: [mappa()],
        preview: { port: 0 },
      })
      context.after(() => server.close())
      const { port } = server.httpServer.address() as { port: number }
      const late = await ask(port, '/late/n.txt', {})
      assert.equal(late.status, 403)
      mustBeHidden(late.text + said.join('\n'))
      assert.match(said.join('\n'), /late\/n\.txt {2}value-in-page/)
      assert.equal(
        (await ask(port, '/', { accept: 'text/html' })).text,
        readFileSync(join(root, 'dist/index.html'), 'utf8'),
      )
    })
  }
})
