import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'vite'
import { inTurn, type Measured, runNode } from './measure.ts'

const REPOSITORY = join(import.meta.dirname, '..')

/** A program of 50 settings that does nothing but load them, and its four layer files. */
function writeProgram(directory: string): void {
  const lines = Array.from({ length: 50 }, (_, i) => {
    const path = `mirror${i}`
    return [
      `${path}: setting.string('Name of mirror ${i}', { maxLength: 80 }),`,
      `${path}: setting.integer('Width of mirror ${i}', { minimum: 0 }),`,
      `${path}: setting.url('Address of mirror ${i}'),`,
      `${path}: setting.string('Key of mirror ${i}', { secret: true, minLength: 12 }),`,
      `${path}: setting.boolean('Whether mirror ${i} is covered', { default: true }),`,
    ][i % 5]!
  })
  writeFileSync(
    join(directory, 'settings.definition.js'),
    `import { defineSettings, setting } from 'mappa-settings'
export default defineSettings({ ${lines.join('\n')} })
`,
  )
  writeFileSync(
    join(directory, 'program.js'),
    `import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.js'
const settings = loadSettings(definition)
if (settings.mirror0 === '') process.exit(1)
`,
  )
  const value = (i: number) =>
    ['Fernhollow east', '2400', 'https://mirror.fernhollow.example/${MIRROR1:-x}', 'made-up-key-of-a-mirror', 'no'][
      i % 5
    ]!
  const entries = (from: number, to: number) =>
    Array.from({ length: to - from }, (_, i) => `MIRROR${from + i}="${value(from + i)}"`).join('\n')
  writeFileSync(join(directory, '.env'), `${entries(0, 50)}\n`)
  writeFileSync(join(directory, '.env.local'), `${entries(10, 20)}\n`)
  writeFileSync(join(directory, '.env.development'), `${entries(15, 40)}\n`)
  writeFileSync(join(directory, '.env.development.local'), `${entries(3, 9)}\n`)
  writeFileSync(join(directory, 'package.json'), '{ "type": "module" }')
}

/** Starting a program that loads 50 settings from 4 files, bundled and not, over starting an empty one. */
export async function benchStart(runs: number): Promise<Measured[]> {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  try {
    writeProgram(directory)
    mkdirSync(join(directory, 'node_modules'))
    symlinkSync(join(REPOSITORY, 'packages/mappa-settings'), join(directory, 'node_modules/mappa-settings'))
    await build({
      root: directory,
      envDir: false,
      configFile: false,
      logLevel: 'error',
      build: { ssr: 'program.js', target: 'node20', minify: true },
      ssr: { noExternal: true },
    })
    // The floor is an empty program at the same place, so that Node finds both in the same way.
    writeFileSync(join(directory, 'dist/empty.js'), '')
    const program = inTurn(
      runs,
      () => runNode(['dist/program.js'], { cwd: directory }),
      () => runNode(['dist/empty.js'], { cwd: directory }),
    )
    writeFileSync(join(directory, 'empty.js'), '')
    const modules = inTurn(
      runs,
      () => runNode(['program.js'], { cwd: directory }),
      () => runNode(['empty.js'], { cwd: directory }),
    )
    return [
      { what: 'start with 50 settings from 4 files, bundled / empty program', ...program, runs, limit: 1.08 },
      { what: 'the same, imported from node_modules / empty program', ...modules, runs, limit: 1.15 },
    ]
  } finally {
    if (!process.env.KEEP) rmSync(directory, { recursive: true })
  }
}

/** `mappa check` on the example, TypeScript definition included, over starting an empty program. */
export function benchCheck(runs: number): Measured[] {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  try {
    cpSync(join(REPOSITORY, 'examples/dome-api'), directory, {
      recursive: true,
      filter: (path) => !/node_modules|dist/.test(path.slice(REPOSITORY.length)),
    })
    writeFileSync(join(directory, '.env.development.local'), 'DOME_KEY=drill-made-up-for-this-measurement\n')
    writeFileSync(join(directory, 'empty.mjs'), '')
    mkdirSync(join(directory, 'node_modules'))
    const command = join(REPOSITORY, 'packages/mappa-cli/dist/main.js')
    const check = inTurn(
      runs,
      () => runNode([command, 'check', '--stage', 'development'], { cwd: directory }),
      () => runNode(['empty.mjs'], { cwd: directory }),
    )
    const cold = inTurn(
      Math.min(runs, 15),
      () => {
        rmSync(join(directory, 'node_modules/.cache'), { recursive: true, force: true })
        runNode([command, 'check', '--stage', 'development'], { cwd: directory })
      },
      () => runNode(['empty.mjs'], { cwd: directory }),
    )
    return [
      { what: 'mappa check on the example / empty program', ...check, runs, limit: 1.6 },
      { what: 'the same after an edit of the definition', ...cold, runs: Math.min(runs, 15), limit: null },
    ]
  } finally {
    if (!process.env.KEEP) rmSync(directory, { recursive: true })
  }
}
