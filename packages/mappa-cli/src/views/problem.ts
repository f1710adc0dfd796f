import type { Problem, ProblemCode } from '@mappa/core/problems/problem'
import type { CodeFrame } from '@mappa/core/secret/display'

/** A problem as a person sees it, in any medium. Holds no secret value. */
export interface ProblemView {
  readonly code: ProblemCode
  readonly severity: Problem['severity']
  readonly message: string
  readonly hint: string
  /** Variable name of the setting, where it is about one. */
  readonly name: string | null
  /** Path of the setting, where it is about one. */
  readonly setting: string | null
  /** The file, relative to the project; `null` where it is in none. */
  readonly file: string | null
  readonly line: number | null
  readonly column: number | null
  /** What a person calls its place: `.env.production:3`, `the process environment`; `null` where it has none. */
  readonly place: string | null
  readonly codeFrame: CodeFrame | null
}

/** Makes the view of a problem. */
export function problemView(each: Problem): ProblemView {
  const { code, severity, message, hint, name, setting, file, line, column, layer, codeFrame } = each
  const inFile = file === null ? null : `${file}${line === null ? '' : `:${line}`}`
  return { code, severity, message, hint, name, setting, file, line, column, place: inFile ?? layer, codeFrame }
}
