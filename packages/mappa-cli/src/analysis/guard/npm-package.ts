import { holdsValues } from '@mappa/core/layers/env-file-name'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { MAX_SEARCHED_BYTES } from '@mappa/core/problems/skip-reasons'
import { fs, path } from '@mappa/node/fs/builtin'
import { readLimited } from '@mappa/node/fs/read-file'
import { findProgram } from '@mappa/node/git/programs'
import type { SearchedSecret } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import type { Coverage } from '@mappa/search/read/coverage'
import { showPath } from '@mappa/search/shown-path'
import { reportSecret } from './secret-found.ts'
import { takeSkipped } from './skipped.ts'

const { spawnSync } = process.getBuiltinModule('node:child_process')

/** What was found, and what could not be checked, and why. */
export interface PackageCheck {
  readonly problems: readonly Problem[]
  /** What npm would publish, relative to the root. */
  readonly files: readonly string[]
  readonly notScanned: string | null
}

/**
 * Whether `npm publish` would carry an env file or a secret along. npm itself says what it would pack; no script of the package is run.
 *
 * @param coverage is told what could not be read
 */
export function checkPublished(root: string, needles: readonly SearchedSecret[], coverage: Coverage): PackageCheck {
  const manifest = readJson(path.join(root, 'package.json')) as { private?: boolean; name?: string } | null
  if (manifest === null || manifest.private === true || manifest.name === undefined)
    return { problems: [], files: [], notScanned: null }
  const output = askNpm(root)
  const packed = output === null ? null : parsePackedFiles(output)
  if (packed === null)
    return { problems: [], files: [], notScanned: 'what npm publish would carry along: npm did not say' }
  const problems = packed.filter(holdsValues).map((file) => guardProblem('env-file-published', { file }, { file }))
  return { problems: [...problems, ...searchPacked(root, packed, needles, coverage)], files: packed, notScanned: null }
}

function searchPacked(
  root: string,
  files: readonly string[],
  needles: readonly SearchedSecret[],
  coverage: Coverage,
): readonly Problem[] {
  return files.flatMap((file) => {
    const { path: shown } = showPath(file, needles)
    const read = readLimited(path.join(root, file), MAX_SEARCHED_BYTES)
    if (read.skipped !== null) {
      coverage.skip(shown, read.skipped)
      return []
    }
    const { hits, skipped } = searchContent(file, read.bytes, needles)
    takeSkipped(coverage, shown, skipped)
    return hits.map((hit) => reportSecret(hit, { code: 'secret-published', file: shown }))
  })
}

/** What npm may do on the way is turned off, whatever the configuration of the package says: scripts, requests, logs. */
const PACK = [
  'pack',
  '--dry-run',
  '--json',
  '--ignore-scripts',
  '--silent',
  '--offline',
  '--no-update-notifier',
  '--logs-max=0',
]

/** @returns what npm prints; `null` where there is no npm */
function askNpm(root: string): string | null {
  const program = findProgram('npm', root)
  if (program === null) return null
  // Windows starts command files through its shell alone.
  const isCommandFile = /\.(?:cmd|bat)$/i.test(program)
  const { stdout, error } = spawnSync(isCommandFile ? `"${program}"` : program, PACK, {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    shell: isCommandFile,
  })
  return error === undefined ? stdout : null
}

function parsePackedFiles(output: string): string[] | null {
  try {
    const packages = Object.values(JSON.parse(output) as Record<string, { files?: { path: string }[] }>)
    return packages.flatMap(({ files = [] }) => files.map((file) => file.path))
  } catch {
    return null
  }
}

function readJson(file: string): unknown {
  try {
    return JSON.parse(fs.readFileSync(file, 'utf8'))
  } catch {
    return null
  }
}
