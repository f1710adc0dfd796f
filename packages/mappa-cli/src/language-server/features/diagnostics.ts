import { holdsOwnSecret } from '@mappa/core/credentials/own-secret'
import type { EnvDocument } from '@mappa/core/envfile/document'
import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import { getDetail, type Problem } from '@mappa/core/problems/problem'
import type { Diagnostic, Range } from 'vscode-languageserver'
import { checkIgnored } from '../../analysis/guard/env-files.ts'
import { chooseLayerFile } from '../../analysis/set/write-setting.ts'
import type { EditorProject } from '../editor-project.ts'
import { toPosition } from '../places.ts'

/** What a diagnostic carries for its quick fixes. */
export interface DiagnosticData {
  readonly code: string
  readonly name: string | null
  readonly setting: string | null
  readonly stage: string | null
  /** The name that was probably meant. */
  readonly near: string | null
}

const ERROR = 1
const WARNING = 2

/** Everything that is wrong with a layer file, each problem once, whatever stages have it. */
export function diagnoseEnvFile(project: EditorProject, file: string): Diagnostic[] {
  const document = project.document(file)
  const stages = project.stages.filter(({ stage }) => project.listStages(file).includes(stage))
  const own = stages.flatMap(({ problems }) => problems.filter((each) => belongs(each, file, project)))
  const all = [...own, ...findExposedSecrets(project, file, document)]
  const byText = new Map(all.map((each) => [`${each.code} ${each.line}:${each.column} ${each.message}`, each]))
  return [...byText.values()].map((each) => toDiagnostic(each, toProblemRange(each, document)))
}

/** The beginning of a file, for what is in no line of it. */
export const START: Range = { start: { line: 0, character: 0 }, end: { line: 0, character: 1 } }

/** From where a problem begins to the end of its line. */
export function toLineRange({ line, column }: Problem, text: string): Range {
  const start = { line: (line ?? 1) - 1, character: (column ?? 1) - 1 }
  const length = (text.split('\n')[start.line] ?? '').length
  return { start, end: { line: start.line, character: Math.max(start.character + 1, length) } }
}

/** A problem as the protocol has it. */
export function toDiagnostic(each: Problem, range: Range): Diagnostic {
  const { code, hint, message, name, setting, severity, stage } = each
  const near = getDetail(each, 'meant') ?? getDetail(each, 'near')
  const data: DiagnosticData = { code, name, setting, stage, near: typeof near === 'string' ? near : null }
  return {
    range,
    severity: severity === 'error' ? ERROR : WARNING,
    code,
    source: 'mappa',
    message: `${message}\n${hint}`,
    data,
  }
}

/** Missing values are told in the file that they go into. */
function belongs({ code, file, setting, stage }: Problem, own: string, { definition }: EditorProject): boolean {
  if (file !== null) return file === own
  if (code !== 'missing' && code !== 'missing-then') return false
  const declaration = definition.settings.find(({ path }) => path === setting)
  return declaration !== undefined && chooseLayerFile(declaration, { stage, local: false }) === own
}

/** Secrets in a file that git does not ignore. */
function findExposedSecrets({ definition, root }: EditorProject, file: string, document: EnvDocument): Problem[] {
  const secrets = document.entries.filter(
    ({ name, value }) => holdsOwnSecret(value) && definition.settings.some((each) => each.secret && each.name === name),
  )
  if (secrets.length === 0) return []
  const found = checkIgnored(root, [{ file, local: isLocalFile(file), secrets: secrets.map(({ name }) => name) }])
  return found.flatMap(({ code }) =>
    secrets.map(({ name, line, column }) => {
      const details = { file, names: [name], rule: `/${file}`, local: isLocalFile(file) ? file : `${file}.local` }
      const setting = definition.settings.find((each) => each.name === name)?.path ?? null
      return guardProblem(code as 'secret-tracked', details, { file, line, column, name, setting })
    }),
  )
}

/** From where a problem begins to where it ends; what has no end ends with the name, the value or the line that it is in. */
function toProblemRange({ line, column, endLine, endColumn }: Problem, document: EnvDocument): Range {
  const text = String(document)
  if (line === null) {
    const end = toPosition(text, text.length)
    return { start: { line: end.line, character: 0 }, end }
  }
  const start = { line: line - 1, character: (column ?? 1) - 1 }
  if (endLine !== null && endColumn !== null) return { start, end: { line: endLine - 1, character: endColumn - 1 } }
  const entry = document.entries.find((each) => each.line === line)
  if (entry !== undefined && column === entry.column)
    return { start, end: { line: start.line, character: start.character + entry.nameEnd - entry.start } }
  const end = (text.split('\n')[start.line] ?? '').trimEnd().length
  return { start, end: { line: start.line, character: Math.max(start.character + 1, end) } }
}
