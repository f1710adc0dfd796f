import { type ChildProcess, spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import type { TestContext } from 'node:test'
import { pathToFileURL } from 'node:url'
import type { Diagnostic, ProtocolConnection, WorkspaceEdit } from 'vscode-languageserver-protocol'
import { COMMAND } from './project.ts'

// CommonJS that is required, as the server does it.
const { createProtocolConnection, StreamMessageReader, StreamMessageWriter } = createRequire(import.meta.url)(
  'vscode-languageserver-protocol/node',
) as typeof import('vscode-languageserver-protocol/node')

/** An editor, as far as a language server can tell. */
export interface LanguageClient {
  readonly child: ChildProcess
  readonly connection: ProtocolConnection
  /** Everything that the server has sent, as text. */
  readonly received: string[]
  /** What the server wanted a person to read. */
  readonly messages: string[]
  /** What the server wanted the editor to change. */
  readonly edits: WorkspaceEdit[]
  readonly uri: (file: string) => string
  /** Opens a file of the project; with a text, as if that had been typed and not saved. */
  readonly open: (file: string, text?: string) => Promise<Diagnostic[]>
  /** Types another text over the whole of an open file. */
  readonly type: (file: string, text: string) => Promise<Diagnostic[]>
  /** Waits until the server tells of a file in a way that is wanted. */
  readonly told: (file: string, isWanted: (diagnostics: Diagnostic[]) => boolean) => Promise<Diagnostic[]>
  /** Asks about a place of an open file; line and column count from 1. */
  readonly at: <Result>(method: string, file: string, line: number, column: number, more?: object) => Promise<Result>
}

/** Starts the language server in a project, as an editor does, until the test ends. */
export async function startLanguageClient(context: TestContext, root: string): Promise<LanguageClient> {
  const { PATH } = process.env
  const child = spawn(process.execPath, [COMMAND, 'language-server', '--stdio'], {
    cwd: root,
    env: { PATH, HOME: root },
  })
  context.after(() => child.kill('SIGKILL'))
  const received: string[] = []
  child.stderr.on('data', (piece: Buffer) => received.push(piece.toString()))
  child.stdout.on('data', (piece: Buffer) => received.push(piece.toString()))
  const reader = new StreamMessageReader(child.stdout)
  // A server that is killed in the middle of a message would be waited for without end.
  reader.partialMessageTimeout = 0
  const connection = createProtocolConnection(reader, new StreamMessageWriter(child.stdin))
  const versions = new Map<string, number>()
  const known = new Map<string, { readonly version: number; readonly diagnostics: Diagnostic[] }>()
  const waiting = new Set<() => void>()
  const messages: string[] = []
  const edits: WorkspaceEdit[] = []
  connection.onNotification('textDocument/publishDiagnostics', ({ uri, version, diagnostics }) => {
    known.set(uri, { version, diagnostics })
    for (const each of waiting) each()
  })
  connection.onNotification('window/showMessage', ({ message }) => void messages.push(message))
  connection.onRequest('workspace/applyEdit', ({ edit }: { edit: WorkspaceEdit }) => {
    edits.push(edit)
    return { applied: true }
  })
  connection.listen()
  const rootUri = pathToFileURL(root).href
  await connection.sendRequest('initialize', { processId: process.pid, rootUri, capabilities: {} })
  await connection.sendNotification('initialized', {})
  const uri = (file: string) => pathToFileURL(join(root, file)).href
  const told: LanguageClient['told'] = (file, isWanted) =>
    new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        waiting.delete(look)
        reject(new Error(`Nothing came for ${file}; there is: ${JSON.stringify(known.get(uri(file)))}`))
      }, 20_000)
      const look = () => {
        const found = known.get(uri(file))
        if (found === undefined || found.version !== versions.get(file) || !isWanted(found.diagnostics)) return
        clearTimeout(timer)
        waiting.delete(look)
        resolve(found.diagnostics)
      }
      waiting.add(look)
      look()
    })
  return {
    child,
    connection,
    received,
    messages,
    edits,
    uri,
    told,
    async open(file, text = readFileSync(join(root, file), 'utf8')) {
      versions.set(file, 1)
      const textDocument = { uri: uri(file), languageId: 'plaintext', version: 1, text }
      await connection.sendNotification('textDocument/didOpen', { textDocument })
      return told(file, () => true)
    },
    async type(file, text) {
      const version = (versions.get(file) ?? 0) + 1
      versions.set(file, version)
      const textDocument = { uri: uri(file), version }
      await connection.sendNotification('textDocument/didChange', { textDocument, contentChanges: [{ text }] })
      return told(file, () => true)
    },
    at: (method, file, line, column, more = {}) => {
      const position = { line: line - 1, character: column - 1 }
      return connection.sendRequest(`textDocument/${method}`, { textDocument: { uri: uri(file) }, position, ...more })
    },
  }
}

/** A text after edits of the protocol. */
export function edited(text: string, edits: readonly { range: Diagnostic['range']; newText: string }[]): string {
  const offset = ({ line, character }: { line: number; character: number }) =>
    text.split('\n').slice(0, line).join('\n').length + (line > 0 ? 1 : 0) + character
  return [...edits]
    .sort((a, b) => offset(b.range.start) - offset(a.range.start))
    .reduce(
      (before, { range, newText }) => before.slice(0, offset(range.start)) + newText + before.slice(offset(range.end)),
      text,
    )
}
