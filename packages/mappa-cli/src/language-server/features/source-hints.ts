import { getLanguage } from '@mappa/source'
import type { CodeAction, Diagnostic } from 'vscode-languageserver'
import { type Finding, listFindings } from '../../analysis/survey/findings.ts'
import { scanText } from '../../analysis/survey/scan-file.ts'
import { findingProblem } from '../../views/finding-problem.ts'
import type { EditorProject } from '../editor-project.ts'
import { toRange } from '../places.ts'
import { toDiagnostic } from './diagnostics.ts'

/** The command of the server that moves a finding out of the code. */
export const MOVE_FINDING = 'mappa.moveFinding'

const INFORMATION = 3
const HINT = 4

/** Larger sources are made by programs, in characters. */
const LARGEST = 1024 * 1024

/** What a hint carries for its fix. */
export interface HintData {
  readonly finding: { readonly line: number; readonly column: number; readonly name: string }
}

/** Settings and keys that stand in a source. */
export function listSourceHints({ definition }: EditorProject, file: string, text: string): Diagnostic[] {
  const language = getLanguage(file)
  if (language === null || text.length > LARGEST) return []
  const { literals } = scanText(text, file, language)
  return listFindings(literals, definition.settings, definition.stages).flatMap((finding) => listHints(finding, text))
}

function listHints(finding: Finding, text: string): Diagnostic[] {
  const { name, places, secret } = finding
  return places.map((place) => ({
    ...toDiagnostic(findingProblem(finding, place), toRange(text, place.start, place.end)),
    severity: secret ? INFORMATION : HINT,
    data: { finding: { line: place.line, column: place.column, name } } satisfies HintData,
  }))
}

/** The fix of such a hint: the server moves it, in the code, in the definition and in the layer files. */
export function listHintFixes(uri: string, diagnostics: readonly Diagnostic[]): CodeAction[] {
  return diagnostics.flatMap((diagnostic) => {
    const { finding } = (diagnostic.data ?? {}) as Partial<HintData>
    if (diagnostic.source !== 'mappa' || finding === undefined) return []
    const title = `Move ${finding.name} to the settings`
    return {
      title,
      kind: 'quickfix',
      diagnostics: [diagnostic],
      command: { title, command: MOVE_FINDING, arguments: [uri, finding] },
    }
  })
}
