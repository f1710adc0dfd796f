import { join, relative } from 'node:path'
import type { ProblemCode } from '@mappa/core/problems/problem'
import { formatReport } from '@mappa/core/problems/report'
import { isSettingsError, type SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { explainRefusal } from '@mappa/node/fs/regular-file'
import { EXIT_PROBLEMS, EXIT_USAGE } from '../command-line/exit-codes.ts'
import { printJson, problemAsData } from './json.ts'
import { printProblemsAsSarif } from './sarif.ts'
import { err } from './streams.ts'

/** Usage errors: the command never came to look at any settings. */
const CALLED_WRONGLY: ReadonlySet<ProblemCode> = new Set([
  'definition-not-found',
  'definition-file-missing',
  'stage-unknown',
  'setting-unknown',
  'former-not-searchable',
  'secret-on-command-line',
  'secret-without-stage',
  'value-twice',
  'value-not-given',
  'name-or-missing',
  'no-shared-files',
  'random-wrong',
  'repository-missing',
  'findings-not-chosen',
  'finding-unknown',
  'one-finding-needed',
  'path-unusable',
  'command-unclear',
  'grace-period-wrong',
  'file-not-there',
  'stages-and-files',
  'out-needed',
  'fill-needs-out',
  'verify-needs-out',
  'out-pattern-wrong',
  'output-is-template',
  'template-missing',
  'resource-name-wrong',
  'output-outside',
  'output-twice',
  'port-wrong',
  'workspaces-missing',
  'package-unknown',
  'packages-to-choose',
] as const)

/**
 * Prints what kept a command from its work, and says what to end with.
 *
 * @param error what the command threw; a fault of Mappa itself is thrown on
 */
export function printFailure(error: unknown): number {
  if (isSystemError(error)) return printFailure(asFailure(error))
  if (!isSettingsError(error)) throw error
  const { paint, width, print } = err
  const { root } = error.report
  if (asksForJson(process.argv.slice(2)))
    printJson({ stage: error.stage, settings: [], problems: error.problems.map(problemAsData) })
  else if (isFormat(process.argv.slice(2), 'sarif'))
    printProblemsAsSarif(error.problems, { root: root ?? process.cwd(), repository: null })
  else
    print(
      formatReport(error.report, { paint, width, fileLabel: root === undefined ? (file) => file : makeLabel(root) }),
    )
  return error.problems.every((each) => CALLED_WRONGLY.has(each.code)) ? EXIT_USAGE : EXIT_PROBLEMS
}

/** True where the words of a command ask for JSON; behind `--` nothing is an option. */
export function asksForJson(words: readonly string[]): boolean {
  const end = words.indexOf('--')
  const options = words.slice(0, end < 0 ? words.length : end)
  return options.includes('--json') || isFormat(options, 'json')
}

function isFormat(options: readonly string[], format: string): boolean {
  return options.some(
    (word, at) => word === `--format=${format}` || (word === '--format' && options[at + 1] === format),
  )
}

/** Says as data what is wrong with the words of a command. */
export function printUsageError(message: string): void {
  const text = message.replace(/^error: /, '')
  printJson({ stage: null, settings: [], problems: [], usage: text })
}

/** What the operating system refused, where nobody has put it better before. */
function isSystemError(error: unknown): error is NodeJS.ErrnoException & { path: string } {
  return error instanceof Error && 'syscall' in error && 'path' in error && typeof error.path === 'string'
}

function asFailure(error: NodeJS.ErrnoException & { path: string }): SettingsError {
  const file = relative(process.cwd(), error.path) || error.path
  return settingsError(explainRefusal(error, file))
}

/** Shows a path relative to the directory the command was called in, where that is no longer. */
export function makeLabel(root: string): (file: string) => string {
  const prefix = relative(process.cwd(), root)
  return (file) => (prefix === '' || file.startsWith('/') ? file : join(prefix, file))
}
