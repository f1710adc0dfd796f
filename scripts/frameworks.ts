// Tries the plugin with frameworks on each version of Vite, as npm installs them: npm run frameworks [-- DIRECTORY to install into]
import { spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import type { Browser } from 'playwright-core'
import { startChromium } from './start-chromium.mjs'
import { root as repository } from './steps.mjs'

const VERSIONS = ['6', '7', '8']
const given = process.argv[2]
const home = given ?? mkdtempSync(join(tmpdir(), 'mappa-frameworks-'))
if (given === undefined) process.on('exit', () => rmSync(home, { recursive: true, force: true }))

const DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  desk: { key: setting.string('Key that signs booking slips', { secret: true }) },
  visitor: {
    map: setting.url('Where visitors find the star map', { public: true }),
    places: setting.integer('Places at the eyepiece', { public: true, default: 12 }),
    notice: setting.string('Line on top of the page', { public: true, readAt: 'runtime', default: '' }),
  },
})
`
const KEY = 'slip-93ae77c0d1f2'
const COMMON: Readonly<Record<string, string>> = {
  'package.json': '{ "type": "module" }',
  'settings.definition.ts': DEFINITION,
  '.env': 'VISITOR_MAP=https://maps.fernhollow.example/tonight\nVISITOR_NOTICE=clear\n',
  '.env.local': `DESK_KEY=${KEY}\n`,
  'index.html':
    '<!doctype html><html><head><link rel="icon" href="data:,"></head><body><div id="app"></div><script type="module" src="/src/main.ts"></script></body></html>\n',
}
const LEAK = "import text from '../.env.local?raw'\nconsole.log(text)\n"

/** A framework: its files, and the one in which a developer imports what no page may have. */
const FRAMEWORKS: Readonly<Record<string, { plugin: string; files: Record<string, string>; component: string }>> = {
  React: {
    plugin: '@vitejs/plugin-react',
    component: 'src/Desk.tsx',
    files: {
      'index.html': COMMON['index.html']!.replace('main.ts', 'main.tsx'),
      'src/main.tsx':
        "import { createRoot } from 'react-dom/client'\nimport { Desk } from './Desk.tsx'\ncreateRoot(document.getElementById('app')!).render(<Desk />)\n",
      'src/Desk.tsx': `import { settings } from 'virtual:mappa/browser'
export function Desk() {
  return <h1>{settings.visitor.places} | {settings.visitor.notice}</h1>
}
`,
    },
  },
  Vue: {
    plugin: '@vitejs/plugin-vue',
    component: 'src/Desk.vue',
    files: {
      'src/main.ts': "import { createApp } from 'vue'\nimport Desk from './Desk.vue'\ncreateApp(Desk).mount('#app')\n",
      'src/Desk.vue': `<script setup>
import { settings } from 'virtual:mappa/browser'
</script>
<template><h1>{{ settings.visitor.places }} | {{ settings.visitor.notice }}</h1></template>
`,
    },
  },
  Preact: {
    plugin: '@preact/preset-vite',
    component: 'src/Desk.tsx',
    files: {
      'index.html': COMMON['index.html']!.replace('main.ts', 'main.tsx'),
      'src/main.tsx':
        "import { render } from 'preact'\nimport { Desk } from './Desk.tsx'\nrender(<Desk />, document.getElementById('app')!)\n",
      'src/Desk.tsx': `import { settings } from 'virtual:mappa/browser'
const { visitor } = settings
export function Desk() {
  return <h1>{visitor.places} | {visitor.notice}</h1>
}
`,
    },
  },
  Lit: {
    plugin: '',
    component: 'src/main.ts',
    files: {
      'src/main.ts': `import { settings } from 'virtual:mappa/browser'
import { html, LitElement, render } from 'lit'
class VisitorMap extends LitElement {
  override render() { return html\`<a href=\${settings.visitor.map}>map</a>\` }
}
customElements.define('visitor-map', VisitorMap)
render(html\`<h1>\${settings.visitor.places} | \${settings.visitor.notice}</h1><visitor-map></visitor-map>\`, document.getElementById('app')!)
`,
    },
  },
}
const PACKAGES = ['vue@3', '@vitejs/plugin-vue@6', 'preact@10', '@preact/preset-vite@2', '@babel/core@7', 'lit@3']

type Vite = typeof import('vite')
type Config = import('vite').InlineConfig

/** One version of Vite, with the plugin as it would be installed beside it. */
interface Installed {
  readonly directory: string
  readonly vite: Vite
  readonly plugins: (name: string) => Promise<Config['plugins']>
}

const results: boolean[] = []
async function check(what: string, body: () => Promise<void>): Promise<void> {
  try {
    await body()
    results.push(true)
    console.log(`passed  ${what}`)
  } catch (error) {
    results.push(false)
    console.log(`FAILED  ${what}\n${String((error as Error).stack ?? error).replace(/^/gm, '        ')}`)
  }
}

function mustContain(text: string, part: string | RegExp): void {
  const found = typeof part === 'string' ? text.includes(part) : part.test(text)
  if (!found) throw new Error(`${part} is not in:\n${text.slice(0, 2000)}`)
}

function mustNotContain(text: string, part: string): void {
  if (text.includes(part)) throw new Error(`${part} is in:\n${text.slice(0, 2000)}`)
}

async function install(version: string): Promise<Installed> {
  const directory = join(home, version)
  if (!existsSync(join(directory, 'node_modules/vite'))) {
    mkdirSync(directory, { recursive: true })
    writeFileSync(join(directory, 'package.json'), '{ "type": "module", "private": true }')
    const react = ['react@19', 'react-dom@19', `@vitejs/plugin-react@${version === '8' ? 6 : 5}`]
    const words = ['install', '--no-audit', '--no-fund', `vite@${version}`, 'vitest@4', ...react, ...PACKAGES]
    const { status } = spawnSync('npm', words, { cwd: directory, stdio: ['ignore', 'ignore', 'inherit'] })
    if (status !== 0) throw new Error(`npm could not install Vite ${version}.`)
  }
  const own = join(directory, 'node_modules/mappa-settings')
  rmSync(own, { recursive: true, force: true })
  for (const each of ['dist', 'package.json'])
    cpSync(join(repository, 'packages/mappa-settings', each), join(own, each), { recursive: true })
  const load = async (file: string) => import(pathToFileURL(join(directory, 'node_modules', file)).href)
  const entry = (name: string) => {
    const { exports, main } = JSON.parse(
      readFileSync(join(directory, 'node_modules', name, 'package.json'), 'utf8'),
    ) as { exports?: Record<string, unknown>; main?: string }
    const first = (at: unknown): string =>
      typeof at === 'string'
        ? at
        : first((at as Record<string, unknown>).import ?? (at as Record<string, unknown>).default)
    return join(name, exports === undefined ? main! : first(exports['.'] ?? exports))
  }
  const mappa = (await load('mappa-settings/dist/vite.js')) as { default: () => unknown }
  return {
    directory,
    vite: (await load('vite/dist/node/index.js')) as Vite,
    async plugins(name) {
      const framework = name === '' ? [] : [((await load(entry(name))) as { default: () => unknown }).default()]
      return [...framework, mappa.default()] as Config['plugins']
    },
  }
}

/** Makes a project beside the packages. */
function project(installed: Installed, name: string, files: Readonly<Record<string, string>>) {
  const root = join(installed.directory, name.toLowerCase().replaceAll(' ', '-'))
  rmSync(root, { recursive: true, force: true })
  const write = (file: string, text: string) => {
    mkdirSync(dirname(join(root, file)), { recursive: true })
    writeFileSync(join(root, file), text)
  }
  for (const [file, text] of Object.entries({ ...COMMON, ...files })) write(file, text)
  return { root, write }
}

function configOf(root: string, plugins: Config['plugins'], more: Config = {}): Config {
  return { root, configFile: false, logLevel: 'silent', ...(plugins === undefined ? {} : { plugins }), ...more }
}

async function open<Result>(
  browser: Browser,
  url: string,
  body: (page: Awaited<ReturnType<Browser['newPage']>>, errors: string[]) => Promise<Result>,
): Promise<Result> {
  const page = await browser.newPage()
  const errors: string[] = []
  page.on('pageerror', (error) => errors.push(String(error)))
  try {
    await page.goto(url)
    return await body(page, errors)
  } finally {
    await page.close()
  }
}

async function heading(page: Awaited<ReturnType<Browser['newPage']>>, text: string, errors: string[]): Promise<void> {
  const has = `document.querySelector('h1')?.textContent.includes(${JSON.stringify(text)})`
  await page.waitForFunction(has, undefined, { timeout: 20_000 }).catch(async () => {
    throw new Error(`"${text}" never came; there is: ${await page.innerText('body')} ${errors.join('; ')}`)
  })
}

async function listen(server: Server): Promise<string> {
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}/`
}

async function served<Result>(
  { vite }: Installed,
  config: Config,
  body: (url: string) => Promise<Result>,
): Promise<Result> {
  const server = await vite.createServer({ ...config, server: { port: 0 } })
  try {
    await server.listen()
    return await body(server.resolvedUrls!.local[0]!)
  } finally {
    await server.close()
  }
}

/** Builds, and sends what was built, with the values of production. */
async function built(installed: Installed, config: Config, body: (url: string) => Promise<void>): Promise<void> {
  await installed.vite.build(config)
  const preview = await installed.vite.preview({ ...config, preview: { port: 0 } })
  try {
    await body(preview.resolvedUrls!.local[0]!)
  } finally {
    await preview.close()
  }
}

async function tryVersion(version: string, browser: Browser): Promise<void> {
  const installed = await install(version)
  const on = `on Vite ${installed.vite.version}`
  for (const [name, { plugin, files, component }] of Object.entries(FRAMEWORKS)) {
    const { root, write } = project(installed, name, files)
    const config = async () => configOf(root, await installed.plugins(plugin))
    const source = readFileSync(join(root, component), 'utf8')
    const leaking = source.startsWith('<script setup>')
      ? source.replace('<script setup>\n', `<script setup>\n${LEAK}`)
      : `${LEAK}${source}`
    await check(`${name} ${on}: served, refused, and served again`, async () => {
      await served(installed, await config(), (url) =>
        open(browser, url, async (page, errors) => {
          await heading(page, '12 | clear', errors)
          write(component, leaking)
          await heading(page, '1 error', errors)
          const text = await page.innerText('body')
          mustContain(text, component)
          mustNotContain(text, KEY)
          write(component, source)
          await heading(page, '12 | clear', errors)
          write('.env', `${COMMON['.env']}VISITOR_PLACES=3\n`)
          await heading(page, '3 | clear', errors)
          write('.env', COMMON['.env']!)
          if (errors.length > 0) throw new Error(errors.join('\n'))
        }),
      )
    })
    await check(`${name} ${on}: built`, async () => {
      await built(installed, await config(), (url) =>
        open(browser, url, async (page, errors) => heading(page, '12 | clear', errors)),
      )
    })
    await check(`${name} ${on}: a build is refused`, async () => {
      write(component, leaking)
      rmSync(join(root, 'dist'), { recursive: true, force: true })
      const said = await installed.vite.build(await config()).then(
        () => 'built',
        (error: Error) => error.message,
      )
      write(component, source)
      mustContain(said, 'env-file-in-page')
      mustContain(said, component)
      mustNotContain(said, KEY)
      if (existsSync(join(root, 'dist'))) throw new Error('something was written')
    })
  }
  await tryWaysOfServing(installed, on, browser)
}

async function tryWaysOfServing(installed: Installed, on: string, browser: Browser): Promise<void> {
  const line =
    "document.querySelector('#app')!.innerHTML = `<h1>${settings.visitor.places} | ${settings.visitor.notice}</h1>`\n"
  const main = `import { settings } from 'virtual:mappa/browser'\n${line}`
  const plugins = () => installed.plugins('')

  await check(`several pages ${on}`, async () => {
    const { root } = project(installed, 'several pages', {
      'src/main.ts': main,
      'src/map.ts': "import { settings } from 'virtual:mappa/browser'\ndocument.title = settings.visitor.map\n",
      'maps/index.html': COMMON['index.html']!.replace('main.ts', 'map.ts'),
    })
    const input = { main: join(root, 'index.html'), maps: join(root, 'maps/index.html') }
    const config = configOf(root, await plugins(), { build: { rollupOptions: { input } } })
    await built(installed, config, async (url) => {
      await open(browser, url, (page, errors) => heading(page, '12 | clear', errors))
      await open(browser, `${url}maps/`, async (page) => {
        await page.waitForFunction("document.title === 'https://maps.fernhollow.example/tonight'")
      })
    })
  })

  await check(`a worker ${on}`, async () => {
    const { root } = project(installed, 'worker', {
      'src/main.ts': `const worker = new Worker(new URL('./moon.ts', import.meta.url), { type: 'module' })
worker.onmessage = ({ data }) => { document.querySelector('#app')!.innerHTML = \`<h1>\${data}</h1>\` }
worker.postMessage('')
`,
      'src/moon.ts':
        "import { settings } from 'virtual:mappa/browser'\nonmessage = () => postMessage(`from a worker ${settings.visitor.places}`)\n",
    })
    const config = async () => configOf(root, await plugins(), { worker: { format: 'es' } })
    const see = (url: string) => open(browser, url, (page, errors) => heading(page, 'from a worker 12', errors))
    await served(installed, await config(), see)
    await built(installed, await config(), see)
  })

  await check(`a library ${on}`, async () => {
    const { root } = project(installed, 'library', {
      'src/places.ts':
        "import { settings } from 'virtual:mappa/browser'\nexport const places = () => settings.visitor.places + 1\n",
    })
    const lib = { entry: join(root, 'src/places.ts'), formats: ['es' as const], fileName: 'places' }
    await installed.vite.build(configOf(root, await plugins(), { build: { lib } }))
    const { places } = (await import(pathToFileURL(join(root, 'dist/places.js')).href)) as { places: () => number }
    if (places() !== 13) throw new Error(`it gives ${places()}`)
  })

  await check(`middleware mode with pages made by a server ${on}`, async () => {
    const { root, write } = project(installed, 'middleware', {
      'src/main.ts': main,
      'src/server.ts':
        "import { settings } from 'virtual:mappa/server'\nexport const render = () => `<p>${settings.desk.key.reveal().length} characters</p>`\n",
    })
    const vite = await installed.vite.createServer(
      configOf(root, await plugins(), { server: { middlewareMode: true, hmr: { port: 0 } }, appType: 'custom' }),
    )
    const server = createServer((request, response) => {
      vite.middlewares(request, response, async () => {
        const { render } = (await vite.ssrLoadModule('/src/server.ts')) as { render: () => string }
        const html = readFileSync(join(root, 'index.html'), 'utf8').replace('<body>', `<body>${render()}`)
        response
          .writeHead(200, { 'content-type': 'text/html' })
          .end(await vite.transformIndexHtml(request.url ?? '/', html))
      })
    })
    try {
      const url = await listen(server)
      await open(browser, url, async (page, errors) => {
        await heading(page, '12 | clear', errors)
        mustContain(await page.innerText('p'), `${KEY.length} characters`)
        write('src/main.ts', `${LEAK}${main}`)
        await page.reload()
        await heading(page, '1 error', errors)
        mustNotContain(await page.content(), KEY)
      })
      for (const path of ['.env.local', '.env.local?raw', './/.env.local', '%2eenv.local']) {
        const answer = await fetch(url + path)
        if (answer.status !== 403) throw new Error(`${path} is answered with ${answer.status}`)
      }
    } finally {
      server.close()
      await vite.close()
    }
  })

  await check(`a framework that makes its own pages ${on}`, async () => {
    const { root } = project(installed, 'own pages', { 'src/main.ts': main })
    const said: string[] = []
    const say = (text: string) => void said.push(text)
    const customLogger = {
      info: say,
      warn: say,
      warnOnce: say,
      error: say,
      clearScreen() {},
      hasErrorLogged: () => false,
      hasWarned: false,
    }
    const input = join(root, 'src/main.ts')
    await installed.vite.build({
      ...configOf(root, await plugins(), { build: { rollupOptions: { input }, manifest: true } }),
      logLevel: 'info',
      customLogger,
    })
    mustContain(said.join('\n'), 'fillPage')
  })

  await check(`the test runner ${on}`, async () => {
    const { root } = project(installed, 'runner', {
      'vite.config.ts':
        "import mappa from 'mappa-settings/vite'\nimport { defineConfig } from 'vite'\nexport default defineConfig({ plugins: [mappa()] })\n",
      'places.test.ts': `import { expect, test } from 'vitest'
import { settings } from 'virtual:mappa/browser'
import { settings as all } from 'virtual:mappa/server'
test('places', () => {
  expect(settings.visitor.places).toBe(12)
  expect(settings.visitor.notice).toBe('clear')
  expect(all.desk.key.reveal()).toBe('${KEY}')
})
`,
    })
    const runner = join(installed.directory, 'node_modules/vitest/vitest.mjs')
    const { PATH } = process.env
    const { status, stdout, stderr } = spawnSync(process.execPath, [runner, 'run'], {
      cwd: root,
      env: { PATH, HOME: root },
      encoding: 'utf8',
    })
    if (status !== 0) throw new Error(stdout + stderr)
    mustContain(stdout, /1 passed/)
  })
}

const browser = await startChromium()
try {
  for (const version of VERSIONS) await tryVersion(version, browser)
} finally {
  await browser.close()
}
const failed = results.filter((passed) => !passed).length
console.log(`\n${results.length - failed} passed, ${failed} failed`)
process.exitCode = failed === 0 ? 0 : 1
