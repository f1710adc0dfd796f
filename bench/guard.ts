import { spawnSync } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { toNeedles } from '@mappa/search/needles'
import { searchContent } from '@mappa/search/read/contents'
import { inTurn, type Measured, median, runNode } from './measure.ts'

const REPOSITORY = join(import.meta.dirname, '..')
const COMMAND = join(REPOSITORY, 'packages/mappa-cli/dist/main.js')
const SECRETS = Array.from({ length: 20 }, () => randomBytes(24).toString('base64url'))

/** Sources of this project, of the kinds that are searched most. */
const SOURCES: readonly Buffer[] = readdirSync(join(REPOSITORY, 'packages'), { recursive: true, encoding: 'utf8' })
  .filter((file) => /^[\w-]+\/src\/.*\.tsx?$/.test(file))
  .map((file) => readFileSync(join(REPOSITORY, 'packages', file)))
const MEGABYTES = SOURCES.reduce((sum, { length }) => sum + length, 0) / 1e6

/** What searching costs: the engine alone, and the command on repositories. */
export function benchGuard(runs: number): {
  readonly rows: readonly Measured[]
  readonly speed: number
  readonly history: number
} {
  const needles = SECRETS.flatMap((secret, at) => toNeedles(`KEY_${at}`, `keys.k${at}`, secret))
  const search = (): void => {
    for (const bytes of SOURCES) searchContent('source.ts', bytes, needles)
  }
  const engine = inTurn(runs, search, addUp)
  const files = makeRepository(SOURCES.slice(0, 300).flatMap((source) => Array.from({ length: 10 }, () => [source])))
  const commits = makeRepository([SOURCES.slice(0, 300)], 10_000)
  try {
    const guard = inTurn(
      runs,
      () => runNode([COMMAND, 'guard'], { cwd: files }),
      () => runNode([COMMAND, '--help']),
    )
    const history = Array.from({ length: Math.min(runs, 5) }, () => {
      const began = performance.now()
      runNode([COMMAND, 'guard', '--history'], { cwd: commits })
      return performance.now() - began
    })
    return {
      rows: [
        { what: 'searching sources for 20 secrets / one look at each byte', ...engine, runs, limit: 8 },
        { what: 'mappa guard of 3,000 files / start of the command', ...guard, runs, limit: null },
      ],
      speed: MEGABYTES / (engine.subject / 1000),
      history: median(history),
    }
  } finally {
    for (const each of [files, commits]) rmSync(each, { recursive: true, force: true })
  }
}

/** The least that anybody can do who looks at all of it. */
function addUp(): void {
  let sum = 0
  for (const bytes of SOURCES) for (let at = 0; at < bytes.length; at++) sum = (sum + bytes[at]!) | 0
  if (sum === 0) throw new Error('There are no sources.')
}

/**
 * A repository of which each commit brings one version of a file.
 *
 * @param groups what the files of the first commit hold, one directory for each group
 * @param commits how many commits there are
 */
function makeRepository(groups: readonly (readonly Buffer[])[], commits = 1): string {
  const root = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  const git = (words: readonly string[], input?: Buffer): void => {
    const { status, stderr } = spawnSync('git', words, { cwd: root, ...(input === undefined ? {} : { input }) })
    if (status !== 0) throw new Error(String(stderr))
  }
  git(['init', '-q', '-b', 'main'])
  const pieces: Buffer[] = []
  const add = (text: string) => pieces.push(Buffer.from(text))
  const addFile = (name: string, bytes: Buffer) => {
    add(`M 100644 inline ${name}\ndata ${bytes.length}\n`)
    pieces.push(bytes, Buffer.from('\n'))
  }
  const all = groups.flatMap((group, at) => group.map((bytes, index) => [`src/${at}/f${index}.ts`, bytes] as const))
  for (let at = 0; at < commits; at++) {
    add(`commit refs/heads/main\ncommitter Dome <dome@fernhollow.example> ${1_700_000_000 + at} +0000\ndata 5\nnight\n`)
    if (at === 0) for (const [name, bytes] of all) addFile(name, bytes)
    const [name, bytes] = all[at % all.length]!
    addFile(name, Buffer.concat([bytes.subarray(0, 2000), Buffer.from(`\n// ${at}\n`)]))
  }
  git(['fast-import', '--quiet'], Buffer.concat(pieces))
  git(['reset', '-q', '--hard'])
  const settings = Object.fromEntries(
    SECRETS.map((_, at) => [`k${at}`, { kind: 'string', description: 'A key', secret: true }]),
  )
  writeFileSync(join(root, 'settings.definition.json'), JSON.stringify({ settings }))
  writeFileSync(join(root, '.gitignore'), 'node_modules\n.env*.local\n')
  const lines = SECRETS.map((secret, at) => `K${at}=${secret}\n`)
  writeFileSync(join(root, '.env.production.local'), lines.join(''), { mode: 0o600 })
  mkdirSync(join(root, 'node_modules'))
  return root
}
