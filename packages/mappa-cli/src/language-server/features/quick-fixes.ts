import { isSettingsError } from '@mappa/core/problems/settings-error'
import type { CodeAction, Diagnostic } from 'vscode-languageserver'
import type { EditorProject } from '../editor-project.ts'
import type { DiagnosticData } from './diagnostics.ts'
import type { Fix } from './fixes/fix.ts'
import { added, removed, removedIfAlone, withEquals, withoutDuplicate, withoutSpaces } from './fixes/lines.ts'
import { nameWritten, referenceRenamed, renamed, renamedToSetting } from './fixes/names.ts'
import { ignored, secretMoved } from './fixes/secrets.ts'
import { quote, trimmed, unquoted, valueWritten, withUnit } from './fixes/values.ts'

/** The fixes of each problem whose hint is one edit, by its code. */
const FIXES: Readonly<Record<string, Fix>> = {
  'spaces-unquoted': quote,
  'backslash-unquoted': quote,
  'quote-in-value': quote,
  'shell-character': quote,
  'dollar-kept': quote,
  'value-has-blanks': trimmed,
  'value-in-quotes': unquoted,
  'not-url': valueWritten,
  'not-in-enum': valueWritten,
  'not-hostname': valueWritten,
  'not-size': valueWritten,
  'not-duration': withUnit,
  'spaces-around-equals': withoutSpaces,
  'colon-for-equals': withEquals,
  'name-near': renamed,
  'name-former': renamedToSetting,
  'name-wrong': nameWritten,
  'value-lacking': nameWritten,
  'reference-to-nothing': referenceRenamed,
  'name-twice': withoutDuplicate,
  'name-former-unused': removed,
  'value-is-word': removed,
  'empty-hides-value': removed,
  'setting-deprecated': removedIfAlone,
  missing: added,
  'missing-then': added,
  'secret-not-ignored': secretMoved,
  'secret-tracked': secretMoved,
  'local-secret-not-ignored': ignored,
}

/** The quick fixes for diagnostics of a layer file. */
export function listQuickFixes(
  project: EditorProject,
  file: string,
  uri: string,
  diagnostics: readonly Diagnostic[],
): CodeAction[] {
  const document = project.document(file)
  return diagnostics.flatMap((diagnostic) => {
    const data = diagnostic.data as DiagnosticData | undefined
    if (diagnostic.source !== 'mappa' || data === undefined) return []
    try {
      return FIXES[data.code]?.({ project, file, uri, document, diagnostic, data }) ?? []
    } catch (error) {
      // What the value holds can't be written into an env file.
      if (isSettingsError(error)) return []
      throw error
    }
  })
}
