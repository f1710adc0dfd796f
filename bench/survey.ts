import { spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inTurn, type Measured, runNode } from './measure.ts'

const REPOSITORY = join(import.meta.dirname, '..')
const COMMAND = join(REPOSITORY, 'packages/mappa-cli/dist/main.js')

/** Surveying the packages of the project, over one `grep -rIE` through the same tree; and the project itself. */
export function benchSurvey(runs: number): { rows: Measured[]; megabytes: number } {
  const tree = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  try {
    // What the survey remembers lies here.
    const cache = join(tree, 'node_modules/.cache')
    mkdirSync(join(tree, 'node_modules'))
    // As many sources as a large project has.
    for (const name of LARGE) cpSync(join(REPOSITORY, 'node_modules', name), join(tree, name), { recursive: true })
    const survey = [COMMAND, 'survey', '--ignored', '--json', '--root', tree, tree]
    const grep = () => spawnSync('grep', ['-rIE', '(api|secret|access)_?key *[:=]', tree], { stdio: 'ignore' })
    const first = inTurn(
      Math.min(runs, 3),
      () => {
        rmSync(cache, { recursive: true, force: true })
        runSurvey(survey)
      },
      grep,
    )
    const again = inTurn(runs, () => runSurvey(survey), grep)
    const own = inTurn(
      runs,
      () => runSurvey([COMMAND, 'survey', '--json', '--root', '.'], REPOSITORY),
      () => runNode([COMMAND, '--help']),
    )
    return {
      rows: [
        { what: 'mappa survey of a large tree, again / grep -rIE', ...again, runs, limit: 5 },
        { what: 'the same for the first time', ...first, runs: Math.min(runs, 3), limit: 10 },
        { what: 'mappa survey of this project / start of the command', ...own, runs, limit: 1.5 },
      ],
      megabytes: peakMemoryOf(survey, cache),
    }
  } finally {
    rmSync(tree, { recursive: true })
  }
}

/** Packages with many sources, of all kinds and sizes. */
const LARGE = [
  'webpack',
  'vite',
  'jest',
  '@babel',
  'react-dom',
  'rxjs',
  'ajv',
  'metro',
  '@jest',
  'fast-check',
  'yaml',
  'playwright-core',
].filter((name) => existsSync(join(REPOSITORY, 'node_modules', name)))

function runSurvey(words: readonly string[], cwd = REPOSITORY): void {
  const { status } = spawnSync(process.execPath, words, { cwd, stdio: 'ignore' })
  if (status !== 0 && status !== 1) throw new Error(`mappa survey ended with ${status}`)
}

/** The most memory the command held when nothing was remembered, in MB. */
function peakMemoryOf(words: readonly string[], cache: string): number {
  rmSync(cache, { recursive: true, force: true })
  return peakMemory(words)
}

/** The most memory the command held, in MB, as the system counted it. */
function peakMemory(words: readonly string[]): number {
  const report = 'process.on("exit", () => process.stderr.write(String(process.resourceUsage().maxRSS)))'
  const { stderr } = spawnSync(
    process.execPath,
    ['--import', `data:text/javascript,${encodeURIComponent(report)}`, ...words],
    { stdio: ['ignore', 'ignore', 'pipe'], encoding: 'utf8' },
  )
  return Number(/\d+$/.exec(stderr)?.[0]) / 1024
}
