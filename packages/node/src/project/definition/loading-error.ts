import * as setting from '@mappa/core/definition/kinds'
import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import { withLocation } from '@mappa/core/problems/problem'
import { isSettingsError, SettingsError } from '@mappa/core/problems/settings-error'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import { path as paths } from '../../fs/builtin.ts'

/** What to throw where a file exports something else than a definition. */
export function notExported(exported: unknown, file: string): SettingsError {
  const found = describeExport(exported)
  return new SettingsError({
    stage: null,
    problems: [definitionFileProblem('definition-not-exported', { file, found }, { file })],
  })
}

function describeExport(exported: unknown): string {
  if (exported === undefined) return 'no default'
  return exported === null ? 'null' : `a default that is a ${typeof exported}`
}

/**
 * What to throw where a definition can't be loaded: its own problems with the file they are in, or one with what was thrown.
 *
 * @param path the absolute path of the file
 * @param file the same, as it is shown
 */
export function loadingError(error: unknown, path: string, file: string): SettingsError {
  if (isSettingsError(error)) {
    const problems = error.problems.map((each) => withLocation(each, { file: each.file ?? file }))
    return new SettingsError({ stage: null, problems })
  }
  const thrown = error instanceof Error || (typeof error === 'object' && error !== null && 'message' in error)
  const message = thrown ? String((error as Error).message) : String(error)
  const name = thrown && (error as Error).name !== 'Error' ? `${(error as Error).name}: ` : ''
  // A compiler calls an import by a name of its own: (0, _settings.dome).
  const said = message.split('\n', 1)[0]!.replace(/\(0 ?, ?\w+\.([\w.]+)\)|\b_\w+\.(?=setting\.)/g, '$1')
  // A part that could not be compiled.
  const part = thrown && 'part' in error ? String(error.part) : null
  const shown = part === null ? file : paths.join(paths.dirname(file), paths.relative(paths.dirname(path), part))
  const place = { file: shown.replaceAll('\\', '/'), ...findErrorPlace(path, error) }
  const unknown = /\bsetting\.(\w+) is not a function$/.exec(said)?.[1]
  if (unknown !== undefined && !(unknown in setting)) return unknownFunction(unknown, place)
  const reason = `${name}${said.replaceAll(path, file)}`
  return new SettingsError({
    stage: null,
    problems: [definitionFileProblem('definition-failed', { file, reason }, place)],
  })
}

function unknownFunction(asked: string, place: { readonly file: string }): SettingsError {
  const functions = Object.keys(setting)
  const details = { asked, functions, near: makeClosestMatch(functions)(asked) }
  return new SettingsError({
    stage: null,
    problems: [definitionFileProblem('setting-function-unknown', details, place)],
  })
}

/** The place that the error names, or the first line of its stack that lies in the definition itself. */
function findErrorPlace(path: string, error: unknown): { line: number; column: number } | null {
  if (error instanceof SyntaxError && 'line' in error && 'column' in error) {
    return { line: Number(error.line), column: Number(error.column) }
  }
  const stack = typeof error === 'object' && error !== null && 'stack' in error ? String(error.stack) : ''
  for (const line of stack.split('\n')) {
    const at = line.includes(path) ? /:(\d+):(\d+)\)?$/.exec(line) : null
    if (at !== null) return { line: Number(at[1]), column: Number(at[2]) }
  }
  return null
}
