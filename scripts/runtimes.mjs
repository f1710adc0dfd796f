// Tries Mappa in real runtimes, frameworks and test runners, which it installs into a directory of its own: npm run runtimes
import { spawn, spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { arch, platform, tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { root, setUp } from './steps.mjs'

const NODES = ['20', '22', '24']
const PACKAGES = ['bun', 'deno', 'fastify', 'vitest', 'jest', 'vue', '@vitejs/plugin-vue', 'vite']

setUp({ programs: ['chromium-headless-shell'], withCompat: true })
const home = mkdtempSync(join(tmpdir(), 'mappa-runtimes-'))
process.on('exit', () => rmSync(home, { recursive: true, force: true }))

/** Runs a program with nothing in its environment that a check did not put there. */
function run(program, words, { cwd = home, env = {} } = {}) {
  const options = { cwd, env: { PATH: process.env.PATH, HOME: home, ...env }, encoding: 'utf8', timeout: 120_000 }
  const { status, stdout, stderr, error } = spawnSync(program, words, options)
  return { status, text: `${stdout}${stderr}${error ?? ''}` }
}

function write(file, text) {
  mkdirSync(dirname(join(home, file)), { recursive: true })
  writeFileSync(join(home, file), text)
}

console.log(`\n== Installing ${PACKAGES.join(', ')} and Node ${NODES.join(', ')} into ${home}`)
write('package.json', '{ "type": "module" }')
const nodes = NODES.map((major) => `node-${major}@npm:node-${platform()}-${arch()}@${major}`)
const installed = spawnSync('npm', ['install', '--no-audit', '--no-fund', ...PACKAGES, ...nodes], {
  cwd: home,
  stdio: ['ignore', 'ignore', 'inherit'],
})
if (installed.status !== 0) process.exit(1)
// As npm would install them: files of their own, not links into this repository.
for (const name of ['mappa-settings', 'mappa-cli'])
  for (const file of ['dist', 'package.json'])
    cpSync(join(root, 'packages', name, file), join(home, 'node_modules', name, file), { recursive: true })
const { dependencies } = JSON.parse(readFileSync(join(root, 'packages/mappa-cli/package.json'), 'utf8'))
for (const name of Object.keys(dependencies)) {
  const target = join(home, 'node_modules', name)
  if (!existsSync(target)) cpSync(join(root, 'node_modules', name), target, { recursive: true })
}

write(
  'settings.definition.mjs',
  `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  server: { port: setting.port('Port the dome service listens on', { default: 4100, public: true }) },
  dome: { url: setting.url('Address of the dome controller'), key: setting.string('Key it asks for', { secret: true }) },
})
`,
)
write('.env', 'DOME_URL=http://dev.fernhollow.example\nDOME_KEY=drill-made-up\n')
write('.env.staging', 'DOME_URL=http://staging.fernhollow.example\n')
write('.env.staging.local', 'DOME_KEY=staging-made-up\n')
write(
  'print.mjs',
  `import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.mjs'
const { dome } = loadSettings(definition, { onErrors: 'exit' })
console.log(dome.url, dome.key.reveal())
`,
)
write('set.mjs', `process.env.DOME_URL = 'http://code.fernhollow.example'\nawait import('./print.mjs')\n`)
write(
  'watch.mjs',
  `import { writeFileSync } from 'node:fs'
import { watchSettings } from 'mappa-settings/node'
import definition from './settings.definition.mjs'
const settings = watchSettings(definition, (now) => { console.log('now ' + now.dome.url); settings.stop() }, { stage: 'staging' })
writeFileSync('.env.staging', 'DOME_URL=http://changed.fernhollow.example\\n')
`,
)

const node = (major) => join(home, `node_modules/node-${major}/bin/node`)
// The programs themselves, from the packages for this machine: nothing has to run at install.
// Its install script moves that of Bun, if npm lets it run.
const bun = [`@oven/bun-${platform()}-${arch()}/bin/bun`, 'bun/bin/bun.exe']
  .map((file) => join(home, 'node_modules', file))
  .find(existsSync)
const deno = join(home, `node_modules/@deno/${platform()}-${arch()}${platform() === 'linux' ? '-glibc' : ''}/deno`)
const STAGING = 'http://staging.fernhollow.example staging-made-up'
const env = { MAPPA_STAGE: 'staging' }
const own = { ...env, DOME_URL: 'http://own.fernhollow.example' }
const results = []

function check(what, outcome, expected, status = 0) {
  const passed =
    outcome.status === status &&
    (expected instanceof RegExp ? expected.test(outcome.text) : outcome.text.includes(expected))
  results.push(passed)
  console.log(`${passed ? 'passed' : 'FAILED'}  ${what}`)
  if (!passed)
    console.log(
      outcome.text
        .split('\n')
        .slice(0, 25)
        .map((line) => `        ${line}`)
        .join('\n'),
    )
}

for (const major of NODES) {
  check(`Node ${major}`, run(node(major), ['print.mjs'], { env }), STAGING)
  check(
    `Node ${major}, a variable set by hand`,
    run(node(major), ['print.mjs'], { env: own }),
    'http://own.fernhollow.example',
  )
  check(`Node ${major} with --env-file`, run(node(major), ['--env-file=.env', 'print.mjs'], { env }), STAGING)
  check(
    `Node ${major} with --env-file, a variable set by hand`,
    run(node(major), ['--env-file=.env', 'print.mjs'], { env: own }),
    'http://own.fernhollow.example',
  )
  check(
    `Node ${major} with --env-file, a variable set in code`,
    run(node(major), ['--env-file=.env', 'set.mjs'], { env }),
    /environment-from-file/,
    78,
  )
}
check('Bun', run(bun, ['print.mjs'], { env }), STAGING)
check('Bun, a variable set by hand', run(bun, ['print.mjs'], { env: own }), 'http://own.fernhollow.example')
check('Bun, its own reading turned off', run(bun, ['--no-env-file', 'print.mjs'], { env }), STAGING)
write('.env.production', 'DOME_URL=70000\n')
check(
  'mappa check in Bun',
  run(bun, ['--bun', 'node_modules/mappa-cli/dist/main.js', 'check', '--stage', 'production'], {}),
  /not-url/,
  1,
)
rmSync(join(home, '.env.production'))
write('package.json', '{ "type": "module", "scripts": { "start": "node print.mjs" } }')
check('a script that Bun starts', run(bun, ['run', 'start'], { env }), STAGING)
check(
  'a script that Bun starts, its own reading turned off',
  run(bun, ['--no-env-file', 'run', 'start'], { env }),
  STAGING,
)
check('Deno', run(deno, ['run', '-A', 'print.mjs'], { env }), STAGING)
check('Deno with --env-file', run(deno, ['run', '-A', '--env-file=.env', 'print.mjs'], { env }), STAGING)
check(
  'Deno with --env-file, which may not tell',
  run(deno, ['run', '--allow-env', '--allow-read=.', '--allow-sys', '--env-file=.env', 'print.mjs'], { env }),
  /environment-from-file/,
  78,
)
for (const [name, program, words] of [
  ['Node', process.execPath, []],
  ['Bun', bun, []],
  ['Deno', deno, ['run', '-A']],
]) {
  write('.env.staging', 'DOME_URL=http://staging.fernhollow.example\n')
  check(`watching in ${name}`, run(program, [...words, 'watch.mjs']), 'now http://changed.fernhollow.example')
}
write('.env.staging', 'DOME_URL=http://staging.fernhollow.example\n')

write(
  'server.mjs',
  `import Fastify from 'fastify'
import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.mjs'
const settings = loadSettings(definition)
const app = Fastify()
app.get('/', async () => settings)
const { statusCode, body } = await app.inject('/')
console.log(statusCode, body)
`,
)
check(
  'Fastify sends the settings',
  run(process.execPath, ['server.mjs'], { env }),
  /^200 \{"server":\{"port":4100\}.*\(secret, 15 characters/,
)

const TEST = `import { loadSettings } from 'mappa-settings/node'
import { Secret } from 'mappa-settings'
import definition from './settings.definition.mjs'
const settings = loadSettings(definition, { stage: 'staging' })
test('settings can be compared', () => {
  expect(settings.server).toEqual({ port: 4100 })
  expect(settings.server).toStrictEqual({ port: 4100 })
  expect(settings).toMatchObject({ server: { port: 4100 } })
  expect(settings).toEqual(loadSettings(definition, { stage: 'staging' }))
  expect(new Secret('a')).toEqual(new Secret('a'))
  expect(new Secret('a')).not.toEqual(new Secret('b'))
  expect(() => expect(settings).toEqual({})).toThrow(/expect/)
  expect(() => expect(settings).toEqual({})).not.toThrow(/staging-made-up/)
  expect(() => settings.server.prot).toThrow(/Did you mean server.port/)
})
`
write('settings.test.mjs', TEST)
write('vitest.config.mjs', `export default { envDir: false, test: { globals: true, include: ['settings.test.mjs'] } }`)
check('Vitest', run(process.execPath, ['node_modules/vitest/vitest.mjs', 'run']), /1 passed/)
write('jest.config.mjs', `export default { testMatch: ['**/settings.test.mjs'], transform: {} }`)
check(
  'Jest',
  run(process.execPath, ['--experimental-vm-modules', 'node_modules/jest/bin/jest.js', '--watchman=false']),
  /1 passed/,
)

write(
  'index.html',
  '<!doctype html><html><body><div id="app"></div><script type="module" src="/main.js"></script></body></html>',
)
write('main.js', `import { createApp } from 'vue'\nimport App from './App.vue'\ncreateApp(App).mount('#app')\n`)
write(
  'App.vue',
  `<script setup>import { settings } from 'virtual:mappa/browser'</script>
<template><h1>port {{ settings.server.port }}</h1><pre>{{ settings }}</pre></template>
`,
)
write(
  'vite.config.mjs',
  `import vue from '@vitejs/plugin-vue'
import mappa from 'mappa-settings/vite'
export default { plugins: [vue(), mappa()], server: { port: 4177 }, optimizeDeps: { exclude: [] } }
`,
)
check('a page of Vue while Vite serves it', await vuePage(), /<h1>port 4100<\/h1>[\s\S]*"port": 4100/)

async function vuePage() {
  const server = spawn(process.execPath, ['node_modules/vite/bin/vite.js', '--strictPort'], {
    cwd: home,
    stdio: 'pipe',
    env: { PATH: process.env.PATH, HOME: home },
  })
  let said = ''
  for (const stream of [server.stdout, server.stderr])
    stream.on('data', (piece) => {
      said += piece
    })
  const { startChromium } = await import('./start-chromium.mjs')
  const browser = await startChromium()
  try {
    while (!said.includes('Local:') && server.exitCode === null)
      await new Promise((resolve) => setTimeout(resolve, 100))
    const page = await browser.newPage()
    const errors = []
    page.on('pageerror', (error) => errors.push(String(error)))
    await page.goto('http://localhost:4177/')
    await page.waitForSelector('h1', { timeout: 20_000 }).catch((error) => errors.push(String(error)))
    return { status: errors.length, text: `${await page.content()}\n${errors.join('\n')}\n${said}` }
  } finally {
    await browser.close()
    server.kill()
  }
}

const large = ['--import', 'tsx', '--test', '--test-name-pattern=webpack|Metro']
check(
  'the recipes for webpack and Metro',
  run(process.execPath, [...large, 'packages/mappa-settings/tests/bundlers.test.ts'], {
    cwd: root,
    env: { MAPPA_TESTS_LARGE: '1' },
  }),
  /^# pass [4-9]\n# fail 0$/m,
)

const failed = results.filter((passed) => !passed).length
console.log(`\n${results.length - failed} passed, ${failed} failed`)
process.exitCode = failed === 0 ? 0 : 1
