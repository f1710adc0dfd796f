import type { CodeAction, Diagnostic, Range, TextEdit } from 'vscode-languageserver'
import type { EnvDocument } from '../../../../mappa/src/core/envfile/document.ts'
import { quoteValue } from '../../../../mappa/src/core/envfile/quote.ts'
import type { EnvEntry } from '../../../../mappa/src/core/envfile/reading/entry.ts'
import { isLocalFile } from '../../../../mappa/src/core/layers/order.ts'
import { isSettingsError } from '../../../../mappa/src/core/problems/settings-error.ts'
import type { EditorProject } from '../editor-project.ts'
import { offsetAt, rangeOf } from '../places.ts'
import type { DiagnosticData } from './diagnostics.ts'

/** The command of the server that moves a secret into the file of this machine. */
export const MOVE_SECRET = 'mappa.moveSecret'

/** What a fix is worked out from. */
interface Broken {
  readonly project: EditorProject
  readonly file: string
  readonly uri: string
  readonly document: EnvDocument
  readonly diagnostic: Diagnostic
  readonly data: DiagnosticData
}

type Fix = (broken: Broken) => CodeAction | null

/** The fix of each problem that is one edit. */
const FIXES: Readonly<Record<string, Fix>> = {
  'spaces-unquoted': quoted,
  'backslash-unquoted': quoted,
  'quote-in-value': quoted,
  'shell-character': quoted,
  'dollar-kept': quoted,
  'spaces-around-equals': withoutSpaces,
  'name-near': renamed,
  'name-former': renamedToSetting,
  'name-twice': withoutDuplicate,
  'colon-for-equals': withEquals,
  missing: added,
  'missing-then': added,
  'secret-not-ignored': secretMoved,
  'secret-tracked': secretMoved,
}

/** The quick fixes for diagnostics of a layer file. */
export function quickFixes(
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
      // What the value holds can't be written in one edit.
      if (isSettingsError(error)) return []
      throw error
    }
  })
}

function action({ diagnostic, uri }: Broken, title: string, edits: TextEdit[]): CodeAction {
  return { title, kind: 'quickfix', diagnostics: [diagnostic], isPreferred: true, edit: { changes: { [uri]: edits } } }
}

function entryAt({ document, diagnostic }: Broken): EnvEntry | undefined {
  return document.entries.find(({ line }) => line === diagnostic.range.start.line + 1)
}

/** Puts a value into quotes that keep it as it is read now. */
function quoted(broken: Broken): CodeAction | null {
  const entry = entryAt(broken)
  if (entry === undefined || typeof entry.value !== 'string' || entry.broken) return null
  const text = String(broken.document)
  const written = quoteValue(entry.value)
  const newText = /^['"]/.test(written) ? written : `'${written}'`
  return action(broken, `Quote the value of ${entry.name}`, [
    { range: rangeOf(text, entry.valueStart, entry.valueEnd), newText },
  ])
}

function withoutSpaces(broken: Broken): CodeAction | null {
  const entry = entryAt(broken)
  if (entry === undefined) return null
  const range = rangeOf(String(broken.document), entry.nameEnd, entry.valueStart)
  return action(broken, 'Remove the spaces around =', [{ range, newText: '=' }])
}

function renamed(broken: Broken): CodeAction | null {
  const { near } = broken.data
  const entry = entryAt(broken)
  if (near === null || entry === undefined) return null
  const range = rangeOf(String(broken.document), entry.start, entry.nameEnd)
  return action(broken, `Rename ${entry.name} to ${near}`, [{ range, newText: near }])
}

function renamedToSetting(broken: Broken): CodeAction | null {
  const { project, data } = broken
  const near = project.definition.settings.find(({ path }) => path === data.setting)?.name ?? null
  return renamed({ ...broken, data: { ...data, near } })
}

/** Takes out every entry of the name but the last one, which is the one that holds. */
function withoutDuplicate(broken: Broken): CodeAction | null {
  const { data, document } = broken
  const same = document.entries.filter(({ name }) => name === (data.name ?? entryAt(broken)?.name))
  if (same.length < 2) return null
  const edits = same.slice(0, -1).map((entry) => ({ range: lineOf(document, entry), newText: '' }))
  return action(
    broken,
    `Remove the ${edits.length === 1 ? 'value' : 'values'} of ${same[0]!.name} that are overridden`,
    edits,
  )
}

function withEquals(broken: Broken): CodeAction | null {
  const text = String(broken.document)
  const { start } = broken.diagnostic.range
  const from = offsetAt(text, { line: start.line, character: 0 })
  const line = text.slice(from).split('\n', 1)[0]!
  const found = /^(\s*[A-Za-z_]\w*)\s*:\s*/.exec(line)
  if (found === null) return null
  const range = rangeOf(text, from + found[1]!.length, from + found[0].length)
  return action(broken, 'Write = in place of :', [{ range, newText: '=' }])
}

/** Adds a name that is missing to the end of the file. */
function added(broken: Broken): CodeAction | null {
  const { name } = broken.data
  if (name === null) return null
  const text = String(broken.document)
  const gap = text === '' || text.endsWith('\n') ? '' : '\n'
  return action(broken, `Add ${name} to ${broken.file}`, [
    { range: rangeOf(text, text.length, text.length), newText: `${gap}${name}=\n` },
  ])
}

/** The server moves it: the value is in no edit, and its file can be read by its owner alone. */
function secretMoved({ data, diagnostic, file, uri }: Broken): CodeAction | null {
  if (data.name === null || isLocalFile(file)) return null
  const title = `Move ${data.name} to ${file}.local, which git ignores`
  return {
    title,
    kind: 'quickfix',
    diagnostics: [diagnostic],
    isPreferred: true,
    command: { title, command: MOVE_SECRET, arguments: [uri, data.name] },
  }
}

/** The lines of an entry, with the line break behind it. */
export function lineOf(document: EnvDocument, { start, valueEnd }: EnvEntry): Range {
  const text = String(document)
  const from = text.lastIndexOf('\n', start - 1) + 1
  const end = text.indexOf('\n', valueEnd)
  return rangeOf(text, from, end < 0 ? text.length : end + 1)
}
