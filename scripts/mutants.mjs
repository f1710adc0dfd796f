// npm run mutants: breaks what holds a promise of docs/security.md, one at a time, in a copy of the repository, and makes sure that the test
// that the promise names fails then. A test that passes with its protection gone holds nothing.
import { spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { MUTANTS } from './mutants/list.mjs'
import { root } from './steps.mjs'

const wanted = process.argv[2] ?? ''
const copy = mkdtempSync(join(tmpdir(), 'mappa-mutants-'))
let survived = 0
let dead = 0
try {
  const LEFT_OUT = /\/(?:\.git|node_modules|dist|\.types)(?:\/|$)/
  cpSync(root, copy, { recursive: true, filter: (path) => !LEFT_OUT.test(path.slice(root.length)) })
  // Links of workspaces lead to the packages beside them, so the directory itself is copied, and all else is linked.
  linkModules()
  for (const mutant of MUTANTS.filter(({ breaks }) => breaks.includes(wanted))) {
    const began = Date.now()
    const isDead = isNoticed(mutant)
    if (isDead) dead++
    else survived++
    console.log(
      `${isDead ? 'fails as it should' : 'SURVIVED'}  ${mutant.breaks} (${Math.round((Date.now() - began) / 1000)} s)`,
    )
  }
} finally {
  rmSync(copy, { recursive: true, force: true })
}
console.log(`${dead} of ${dead + survived} were noticed`)
process.exitCode = survived > 0 || dead === 0 ? 1 : 0

/** A mutant that can't be tried holds nothing either. */
function isNoticed(mutant) {
  try {
    return tryMutant(mutant)
  } catch (error) {
    console.log(error.message)
    return false
  }
}

function linkModules() {
  const { status } = spawnSync('cp', ['-al', join(root, 'node_modules'), join(copy, 'node_modules')])
  if (status !== 0)
    cpSync(join(root, 'node_modules'), join(copy, 'node_modules'), { recursive: true, verbatimSymlinks: true })
}

/** True where the test fails with the mutant, and passes without. */
function tryMutant({ test, name, more = [], ...first }) {
  const originals = new Map()
  try {
    // What several layers protect is broken only with all of them.
    for (const { file, find, replace } of [first, ...more]) {
      const whole = join(copy, file)
      const text = readFileSync(whole, 'utf8')
      if (text.split(find).length !== 2) throw new Error(`${file} has "${find}" not once`)
      if (!originals.has(whole)) originals.set(whole, text)
      writeFileSync(
        whole,
        text.replace(find, () => replace),
      )
    }
    if (run([join(copy, 'scripts/build.mjs')]) !== 0) throw new Error(`It can't be built: ${first.breaks}`)
    return run(['--import', 'tsx', '--test', `--test-name-pattern=${name}`, test]) !== 0
  } finally {
    for (const [whole, text] of originals) writeFileSync(whole, text)
  }
}

function run(words) {
  return spawnSync(process.execPath, words, { cwd: copy, stdio: 'ignore', timeout: 300_000 }).status
}
