// npm run api: writes the API reference to docs/api, from the docstrings. With --verify it says what is out of date there, and writes nothing.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { referenceInput } from './entries.mjs'
import { install, packaged, root } from './steps.mjs'

const TYPEDOC = 'typedoc/bin/typedoc'
const KEPT = join(root, 'docs/api')

/** Each file of a directory with its text, by paths within it. */
function readAll(directory) {
  const files = readdirSync(directory, { recursive: true, withFileTypes: true }).filter((each) => each.isFile())
  const paths = files.map((each) => join(each.parentPath, each.name))
  return new Map(paths.map((path) => [path.slice(directory.length + 1), readFileSync(path, 'utf8')]))
}

/** The files that differ from what the docstrings say now. */
function listStale() {
  const fresh = mkdtempSync(join(tmpdir(), 'mappa-api-'))
  try {
    const words = [join(root, 'node_modules', TYPEDOC), ...referenceInput, '--out', fresh]
    const { status, stdout, stderr } = spawnSync(process.execPath, words, { cwd: root, encoding: 'utf8' })
    if (status !== 0) throw new Error(stdout + stderr)
    const [wanted, kept] = [readAll(fresh), readAll(KEPT)]
    return [...new Set([...wanted.keys(), ...kept.keys()])].filter((file) => wanted.get(file) !== kept.get(file))
  } finally {
    rmSync(fresh, { recursive: true, force: true })
  }
}

if (process.argv.includes('--verify')) {
  const stale = listStale()
  for (const file of stale) console.log(`docs/api/${file} does not say what the docstrings say: npm run api`)
  if (stale.length > 0) process.exitCode = 1
} else {
  install()
  packaged('Writing the API reference to docs/api', TYPEDOC, referenceInput)
}
