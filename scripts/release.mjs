// Tries what would be published: both packages, packed from a fresh clone, installed from their tarballs into empty projects.
// npm run release-check
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { arch, platform, tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { root } from './steps.mjs'

const home = mkdtempSync(join(tmpdir(), 'mappa-release-'))
process.on('exit', () => rmSync(home, { recursive: true, force: true }))

function run(program, words, cwd, env = {}) {
  const options = { cwd, env: { PATH: process.env.PATH, HOME: home, ...env }, encoding: 'utf8', timeout: 600_000 }
  const { status, stdout, stderr, error } = spawnSync(program, words, options)
  return { status, text: `${stdout}${stderr}${error ?? ''}` }
}

function must(what, program, words, cwd) {
  const { status, text } = run(program, words, cwd)
  if (status === 0) return text
  console.error(`${what} failed:\n${text}`)
  process.exit(1)
}

console.log('== Packing both packages from a fresh clone')
const clone = join(home, 'clone')
must('git clone', 'git', ['clone', '--quiet', root, clone], home)
for (const name of ['mappa-settings', 'mappa-cli'])
  must(`npm pack in ${name}`, 'npm', ['pack', '--pack-destination', home], join(clone, 'packages', name))
const [library, command] = ['mappa-settings', 'mappa-cli'].map((name) =>
  join(
    home,
    readdirSync(home).find((file) => new RegExp(`^${name}-\\d.*\\.tgz$`).test(file)),
  ),
)

/** An empty project with some packages and files. */
function project(name, files, packages = [library]) {
  const directory = join(home, name)
  for (const [file, text] of Object.entries({ 'package.json': '{ "type": "module" }', ...files })) {
    mkdirSync(dirname(join(directory, file)), { recursive: true })
    writeFileSync(join(directory, file), text)
  }
  must(`npm install in ${name}`, 'npm', ['install', '--no-audit', '--no-fund', '--no-save', ...packages], directory)
  return directory
}

const results = []
function check(what, outcome, expected, status = 0) {
  const passed = outcome.status === status && expected.test(outcome.text)
  results.push(passed)
  console.log(`${passed ? 'passed' : 'FAILED'}  ${what}`)
  if (!passed) console.log(outcome.text.replace(/^/gm, '        ').slice(0, 4000))
}

const DEFINITION = `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({
  server: { port: setting.port('Port the dome service listens on', { default: 4100 }) },
  dome: { url: setting.url('Address of the dome controller'), key: setting.string('Key it asks for', { secret: true }) },
  visitor: { places: setting.integer('Places at the eyepiece', { default: 12, public: true }) },
})
`
const VALUES = { '.env': 'DOME_URL=http://127.0.0.1:4200\n', '.env.local': 'DOME_KEY=drill-of-a-release\n' }
const PRINT = `import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.mjs'
const { dome, server } = loadSettings(definition)
console.log(server.port, dome.url, dome.key.reveal().length)
`
const FINE = /4100 http:\/\/127\.0\.0\.1:4200 18/

console.log('\n== Installing into empty projects')
const nodes = ['20', '22', '24'].map((major) => `node-${major}@npm:node-${platform()}-${arch()}@${major}`)
const js = project('plain', { ...VALUES, 'settings.definition.mjs': DEFINITION, 'print.mjs': PRINT }, [
  library,
  command,
  ...nodes,
  'bun',
  'deno',
])
const bin = (name) => join(js, 'node_modules', name)
const runtimes = {
  'Node 20': [bin('node-20/bin/node')],
  'Node 22': [bin('node-22/bin/node')],
  'Node 24': [bin('node-24/bin/node')],
  // Its install script moves it, if npm lets it run.
  Bun: [[`@oven/bun-${platform()}-${arch()}/bin/bun`, 'bun/bin/bun.exe'].map(bin).find((file) => existsSync(file))],
  Deno: [bin(`@deno/${platform()}-${arch()}${platform() === 'linux' ? '-glibc' : ''}/deno`), 'run', '-A'],
}
for (const [name, [program, ...words]] of Object.entries(runtimes)) {
  check(`JavaScript on ${name}`, run(program, [...words, 'print.mjs'], js), FINE)
  const main = join(js, 'node_modules/mappa-cli/dist/main.js')
  check(`mappa check on ${name}`, run(program, [...words, main, 'check'], js), /OK, 4 settings/)
}

const cjs = project('common', {
  ...VALUES,
  'package.json': '{ "type": "commonjs" }',
  'print.cjs': `const { defineSettings, setting } = require('mappa-settings')
const { loadSettings } = require('mappa-settings/node')
const definition = defineSettings({
  server: { port: setting.port('Port', { default: 4100 }) },
  dome: { url: setting.url('Dome'), key: setting.string('Key', { secret: true }) },
})
const { dome, server } = loadSettings(definition)
console.log(server.port, dome.url, dome.key.reveal().length)
`,
})
check('CommonJS', run(process.execPath, ['print.cjs'], cjs), FINE)

const OPTIONS = {
  strict: true,
  exactOptionalPropertyTypes: true,
  noUncheckedIndexedAccess: true,
  noPropertyAccessFromIndexSignature: true,
  noImplicitOverride: true,
  verbatimModuleSyntax: true,
  isolatedModules: true,
  declaration: true,
  skipLibCheck: false,
  target: 'es2023',
  lib: ['es2023', 'dom'],
  types: ['node'],
  rewriteRelativeImportExtensions: true,
  outDir: 'out',
  rootDir: '.',
}
const PROGRAM = `import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.ts'
const { dome, server } = loadSettings(definition)
export const port: number = server.port
// @ts-expect-error a secret is no text
export const key: string = dome.key
console.log(port, dome.url, dome.key.reveal().length)
`
for (const version of ['5.8', '5.9', '6', 'latest'])
  for (const [module, moduleResolution] of [
    ['nodenext', 'nodenext'],
    ['esnext', 'bundler'],
  ]) {
    const name = `typescript-${version}-${moduleResolution}`
    const files = {
      ...VALUES,
      'settings.definition.ts': DEFINITION,
      'print.ts': PROGRAM,
      'tsconfig.json': JSON.stringify({ compilerOptions: { ...OPTIONS, module, moduleResolution } }),
    }
    const ts = project(name, files, [library, `typescript@${version}`, '@types/node@20'])
    const compiled = run('npx', ['--no-install', 'tsc'], ts)
    const printed = compiled.status === 0 ? run(process.execPath, ['out/print.js'], ts) : compiled
    check(`TypeScript ${version}, every strict option, ${moduleResolution}`, printed, FINE)
  }

const page = project(
  'page',
  {
    ...VALUES,
    'settings.definition.ts': DEFINITION,
    'index.html': '<!doctype html><div id="app"></div><script type="module" src="/main.ts"></script>',
    'main.ts': `import { settings } from 'virtual:mappa/browser'\ndocument.title = 'places ' + settings.visitor.places\n`,
    'vite.config.ts': `import mappa from 'mappa-settings/vite'\nexport default { plugins: [mappa()] }\n`,
  },
  [library, 'vite'],
)
const built = run('npx', ['--no-install', 'vite', 'build', '--mode', 'development'], page)
const script = built.status === 0 ? run('sh', ['-c', 'cat dist/assets/*.js'], page) : built
check('a page of Vite', script, /12/)
check('a page of Vite holds no secret', { ...script, text: String(script.text.includes('drill')) }, /^false$/)

const shared = project(
  'workspace',
  {
    '.env': 'DOME_URL=http://127.0.0.1:4200\n',
    '.env.local': 'DOME_KEY=drill-of-a-release\n',
    'package.json': '{ "workspaces": ["services/*"] }',
    'services/door/package.json': '{ "name": "door", "type": "module" }',
    'services/door/settings.definition.mjs': DEFINITION.replace(/\}\)\n$/, "}, { layersFrom: ['../..'] })\n"),
    'services/door/print.mjs': PRINT,
  },
  [library, command],
)
check('a program in a workspace', run(process.execPath, ['print.mjs'], join(shared, 'services/door')), FINE)
check('mappa check at its root', run('npx', ['--no-install', 'mappa-cli', 'check'], shared), /^1 package: OK\n/)

const failed = results.filter((passed) => !passed).length
console.log(`\n${results.length - failed} passed, ${failed} failed`)
process.exitCode = failed === 0 ? 0 : 1
