import type { EnvDocument } from '@mappa/core/envfile/document'
import type { EnvEntry } from '@mappa/core/envfile/reading/entry'
import type { CodeAction, Diagnostic, Range, TextEdit } from 'vscode-languageserver'
import type { EditorProject } from '../../editor-project.ts'
import { toRange } from '../../places.ts'
import type { DiagnosticData } from '../diagnostics.ts'

/** What a fix is worked out from. */
export interface Broken {
  readonly project: EditorProject
  readonly file: string
  readonly uri: string
  readonly document: EnvDocument
  readonly diagnostic: Diagnostic
  readonly data: DiagnosticData
}

/** Works out the fixes of a problem; none where it can't be fixed by one edit. */
export type Fix = (broken: Broken) => readonly CodeAction[]

/** A fix that changes the file. */
export function edit({ diagnostic, uri }: Broken, title: string, edits: TextEdit[], isPreferred = true): CodeAction {
  return { title, kind: 'quickfix', diagnostics: [diagnostic], isPreferred, edit: { changes: { [uri]: edits } } }
}

/** A fix that the server carries out by a command. */
export function command({ diagnostic }: Broken, title: string, name: string, words: readonly unknown[]): CodeAction {
  return {
    title,
    kind: 'quickfix',
    diagnostics: [diagnostic],
    isPreferred: true,
    command: { title, command: name, arguments: [...words] },
  }
}

/** The entry that a problem is in. */
export function findEntry({ document, diagnostic }: Broken): EnvEntry | undefined {
  return document.entries.find(({ line }) => line === diagnostic.range.start.line + 1)
}

/** The lines of an entry, with the line break behind it. */
export function getLine(document: EnvDocument, { start, valueEnd }: EnvEntry): Range {
  const text = String(document)
  const from = text.lastIndexOf('\n', start - 1) + 1
  const end = text.indexOf('\n', valueEnd)
  return toRange(text, from, end < 0 ? text.length : end + 1)
}
