// Runs on plain Node: nothing is installed yet when it begins.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

export const root = join(import.meta.dirname, '..')

const packages = readdirSync(join(root, 'packages')).map((name) => `packages/${name}`)

/** Where tests are, relative to the root of the repository. */
export const testDirectories = [...packages.map((each) => `${each}/tests`), 'tests'].filter((each) =>
  existsSync(join(root, each)),
)

/** Where sources are, relative to the root of the repository. */
export const sourceDirectories = packages.map((each) => `${each}/src`)

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

/** Does several things at once that do not wait for one another: programs, those that packages brought along, or scripts of Node. */
export function together(tasks) {
  const commands = tasks.map(({ what, program = process.execPath, name, script, words }) => ({
    what,
    program,
    words: name === undefined ? [...(script ?? []), ...words] : [join(root, 'node_modules', name), ...words],
  }))
  const words = [join(root, 'scripts/together.mjs'), JSON.stringify(commands)]
  if (spawnSync(process.execPath, words, { cwd: root, stdio: 'inherit' }).status !== 0) process.exit(1)
}

/** Where packages are installed: those of the repository, and those that only tests with other tools need. */
const INSTALLED = { development: '.', compatibility: 'tests/compat' }

/**
 * Installs packages if they are missing or no longer match package-lock.json.
 *
 * @param programs names of programs that machine.mjs knows: makes sure that they are there, at the same time
 * @param withCompat true for those of `tests/compat` as well
 */
export function install(programs = [], withCompat = false) {
  const wanted = withCompat ? Object.entries(INSTALLED) : [['development', INSTALLED.development]]
  const missing = wanted.filter(([, directory]) => !isInstalled(directory))
  const tasks = missing.map(([what, directory]) => ({
    what: `Installed packages for ${what}, as package-lock.json lists them`,
    program: 'npm',
    words: [...NPM_CI, '--prefix', join(root, directory)],
  }))
  if (programs.length > 0)
    tasks.push({ what: 'Looked for programs of this machine', script: ['scripts/programs.mjs'], words: programs })
  if (missing.length > 0) console.log('\n== Installing packages, which takes half a minute or more')
  if (tasks.length > 0) together(tasks)
}

/**
 * Has the processes that are started from here on run as users have them: some machines name certificates that npm needs to reach its
 * registry, and each start of Node takes twice as long with them.
 */
export function dropCertificates() {
  delete process.env.NODE_EXTRA_CA_CERTS
}

const NPM_CI = ['ci', '--no-audit', '--no-fund']

/** What is built: the directory of a package, the file of `scripts/build` that says how, and where in it the sources begin. */
const FIRST = [
  ['packages/mappa-settings', 'library'],
  ['packages/mappa-cli', 'command'],
]
/** What is put beside that, into directories which are emptied before. */
const THEN = [
  ['packages/mappa-settings', 'pages'],
  ['packages/mappa-cli', 'web', 'src/web'],
  ['packages/mappa-cli', 'report', 'src/web'],
]

function buildOf([directory, config, sources = '']) {
  return {
    what: `Building ${directory}, by scripts/build/${config}.ts`,
    // Configurations are TypeScript, and so is what they import of the private packages.
    script: ['--import', 'tsx'],
    words: [
      'node_modules/vite/bin/vite.js',
      'build',
      join(directory, sources),
      '--config',
      `scripts/build/${config}.ts`,
      '--logLevel',
      'warn',
    ],
  }
}

const scriptOf = (what, file) => ({ what, script: ['--import', 'tsx'], words: [file] })

/**
 * Installs packages, and builds the library and the command.
 *
 * @param programs names of programs of this machine that have to be there
 * @param withCompat true where packages of `tests/compat` are needed as well
 * @param beside what else can be done while the last step leaves a processor idle
 */
export function setUp({ programs = [], withCompat = false, beside = [] } = {}) {
  install(programs, withCompat)
  together(FIRST.map(buildOf))
  together([
    {
      what: 'Writing types to packages/mappa-settings/dist/types',
      name: 'typescript-7/bin/tsc',
      words: ['-p', 'packages/mappa-settings/tsconfig.types.json'],
    },
    ...THEN.map(buildOf),
    scriptOf('Writing the schema of settings.definition.json', 'scripts/write-definition-schema.ts'),
    scriptOf('Writing docs/problems.md, where it has changed', 'scripts/write-problems.ts'),
  ])
  together([scriptOf('Putting the types of each entry into one file', 'scripts/roll-types.mjs'), ...beside])
}

/** npm leaves a copy of what it installed; it holds each package of the lock file, in the same version. */
function isInstalled(directory) {
  const installed = join(root, directory, 'node_modules/.package-lock.json')
  if (!existsSync(installed)) return false
  const { packages } = JSON.parse(readFileSync(installed, 'utf8'))
  const wanted = JSON.parse(readFileSync(join(root, directory, 'package-lock.json'), 'utf8')).packages
  return Object.entries(wanted).every(
    ([path, { version, optional }]) =>
      !path.startsWith('node_modules/') || optional || packages[path]?.version === version,
  )
}
