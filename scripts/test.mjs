// npm test: everything that must hold. npm test -- move: only the test files whose path contains "move", after building.
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { LINT, typecheck } from './checks.mjs'
import { copyCommand } from './command-apart.mjs'
import { ALL_PROGRAMS, describeProgram, missingPrograms } from './machine.mjs'
import { dropCertificates, root, setUp, step, testDirectories } from './steps.mjs'

/** Files whose tests take long, short as they are; of the others, those that are long do. */
const LONG =
  /(?:endurance|every-command|guides|hostile-repository|language-server|move-programs|run|survey|view)\.test\.ts$/
const sizeOf = (file) => statSync(join(root, file)).size

const [part] = process.argv.slice(2)
const files = testDirectories
  .flatMap((directory) => readdirSync(join(root, directory), { recursive: true }).map((file) => join(directory, file)))
  .filter(
    (file) =>
      file.endsWith('.test.ts') && !file.includes('node_modules') && (part === undefined || file.includes(part)),
  )
  // The longest first, so that none of them is left over when all others have ended.
  .sort((a, b) => Number(LONG.test(b)) - Number(LONG.test(a)) || sizeOf(b) - sizeOf(a))
if (files.length === 0) {
  console.error(`No test file has ${JSON.stringify(part)} in its path.`)
  process.exit(2)
}

setUp({ programs: ALL_PROGRAMS, withCompat: true, beside: part === undefined ? LINT : [] })
dropCertificates()
const missing = missingPrograms(ALL_PROGRAMS)
if (missing.length > 0 && process.env.CI === 'true') {
  console.error(`Nothing is skipped where CI=true. Install ${missing.join(', ')}, so that they are on the PATH.`)
  process.exit(1)
}
if (part === undefined) typecheck()
// Loaded when packages are installed.
const { compileTests } = await import('./compile-tests.mjs')
const words = [
  // Places in reports are those of the sources.
  '--enable-source-maps',
  '--test',
  // Tests of watching, of stores and of pages wait more than they work.
  `--test-concurrency=${availableParallelism() + 2}`,
  '--test-reporter=spec',
  ...(await compileTests(files)),
]
const apart = mkdtempSync(join(tmpdir(), 'mappa-apart-'))
process.on('exit', () => rmSync(apart, { recursive: true, force: true }))
process.env.MAPPA_TESTS_COMMAND = copyCommand(apart)
process.on('exit', () => {
  if (missing.length === 0) return
  console.log(
    `\n== Skipped what needs programs that this machine does not have\n${missing.map(describeProgram).join('\n')}`,
  )
})
step('Running tests', process.execPath, words)
