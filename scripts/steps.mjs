// Runs on plain Node: nothing is installed yet when it begins.
import { spawnSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

export const root = join(import.meta.dirname, '..')

/** Says what is done, does it, and ends everything where it fails. */
export function step(what, program, words) {
  console.log(`\n== ${what}`)
  const { status, error } = spawnSync(program, words, { cwd: root, stdio: 'inherit' })
  if (error) console.error(error.message)
  if (status !== 0) process.exit(status ?? 1)
}

/** Runs a program that a package brought along. */
export function packaged(what, name, words) {
  step(what, process.execPath, [join(root, 'node_modules', name), ...words])
}

/** Installs packages if they are missing or no longer match package-lock.json. */
export function install() {
  if (!isInstalled())
    step('Installing packages, as package-lock.json lists them', 'npm', ['ci', '--no-audit', '--no-fund'])
}

/** What is built, one after the other: the directory of a package, the file that says how, and where in it the sources begin. */
const BUILDS = [
  ['packages/mappa', 'build/library.ts'],
  ['packages/mappa', 'build/plugin.ts'],
  ['packages/mappa', 'build/pages.ts'],
  ['packages/mappa-cli', 'build/command.ts'],
  ['packages/mappa-cli', 'build/web.ts', 'src/web'],
  ['packages/mappa-cli', 'build/report.ts', 'src/web'],
]

/** Installs packages, and builds the library and the command. */
export function setUp() {
  install()
  for (const [directory, config, sources = ''] of BUILDS) {
    const words = ['build', join(directory, sources), '--config', `${directory}/${config}`, '--logLevel', 'warn']
    packaged(`Building ${directory}, by ${config}`, 'vite/bin/vite.js', words)
  }
  packaged('Writing types to packages/mappa/dist/types', 'typescript/bin/tsc', [
    '-p',
    'packages/mappa/tsconfig.types.json',
  ])
  step('Putting the types of each entry into one file', process.execPath, ['--import', 'tsx', 'scripts/roll-types.mjs'])
  step('Writing the schema of settings.definition.json', process.execPath, [
    '--import',
    'tsx',
    'scripts/write-definition-schema.ts',
  ])
  step('Writing docs/problems.md, where it has changed', process.execPath, [
    '--import',
    'tsx',
    'scripts/write-problems.ts',
  ])
}

/** npm leaves a copy of what it installed; it holds each package of the lock file, in the same version. */
function isInstalled() {
  const installed = join(root, 'node_modules/.package-lock.json')
  if (!existsSync(installed)) return false
  const { packages } = JSON.parse(readFileSync(installed, 'utf8'))
  const wanted = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')).packages
  return Object.entries(wanted).every(
    ([path, { version, optional }]) =>
      !path.startsWith('node_modules/') || optional || packages[path]?.version === version,
  )
}
