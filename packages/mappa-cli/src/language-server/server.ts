import { isSettingsError, type SettingsError } from '@mappa/core/problems/settings-error'
import { version } from '@mappa/core/version'
import type { Connection, TextDocumentPositionParams } from 'vscode-languageserver'
import { Documents, type ProjectFile } from './documents.ts'
import { findCompletions, resolved } from './features/completion.ts'
import { IGNORE_FILE, MOVE_SECRET } from './features/fixes/secrets.ts'
import { findHover } from './features/hover.ts'
import { findDefinitions, findReferences } from './features/navigation.ts'
import { listQuickFixes } from './features/quick-fixes.ts'
import { findRenamable, renameSetting } from './features/rename.ts'
import {
  createConnection,
  ErrorCodes,
  ProposedFeatures,
  ResponseError,
  TextDocument,
  TextDocuments,
} from './protocol.ts'

/** The command of the server that moves a finding; what does it is loaded when it is needed. */
const MOVE_FINDING = 'mappa.moveFinding'

/**
 * Serves editors by the Language Server Protocol (3.17) over standard input and output, until the editor ends it.
 *
 * @returns when the editor said that it is done
 */
export function serveEditor(input: NodeJS.ReadableStream, output: NodeJS.WritableStream): Promise<void> {
  const connection = createConnection(ProposedFeatures.all, input, output)
  const documents = new TextDocuments(TextDocument)
  const server = new Documents(connection, documents)
  answer(connection, server)
  documents.listen(connection)
  return new Promise((resolve) => {
    connection.onExit(() => resolve())
    connection.onShutdown(() => server.close())
    connection.listen()
  })
}

function answer(connection: Connection, server: Documents): void {
  connection.onInitialize(() => ({
    serverInfo: { name: 'mappa', version },
    capabilities: {
      textDocumentSync: { openClose: true, change: 2, save: true },
      completionProvider: { triggerCharacters: ['=', '{', '$'], resolveProvider: true },
      hoverProvider: true,
      definitionProvider: true,
      referencesProvider: true,
      renameProvider: { prepareProvider: true },
      codeActionProvider: { codeActionKinds: ['quickfix'] },
      executeCommandProvider: { commands: [MOVE_SECRET, IGNORE_FILE, MOVE_FINDING] },
    },
  }))
  const at = <Result>(handle: (found: ProjectFile, params: TextDocumentPositionParams) => Result) => {
    return async (params: TextDocumentPositionParams): Promise<Result | null> => {
      const found = await server.find(params.textDocument.uri)
      return found === null ? null : handle(found, params)
    }
  }
  connection.onHover(at(({ project, file, text }, { position }) => findHover(project, file, text, position)))
  connection.onDefinition(at(({ project, file, text }, { position }) => findDefinitions(project, file, text, position)))
  connection.onReferences(
    at(({ project, file, text }, { position }) =>
      findReferences(project, file, text, position, server.findReaders(project)),
    ),
  )
  connection.onCompletion(
    at(({ project, file, text }, { position }) =>
      project.isLayer(file) ? findCompletions(project, file, text, position) : null,
    ),
  )
  connection.onCompletionResolve((item) => {
    const { root } = (item.data ?? {}) as { root?: string }
    const project = server.projects.opened.find((each) => each.root === root)
    return project === undefined ? item : resolved(project, item)
  })
  connection.onPrepareRename(
    at(({ project, file, text }, { position }) => findRenamable(project, file, text, position)),
  )
  connection.onRenameRequest(async ({ textDocument, position, newName }) => {
    const found = await server.find(textDocument.uri)
    if (found === null) return null
    const { project, file, text } = found
    server.forgetAll(project)
    try {
      return renameSetting(project, file, text, position, newName, server.findReaders(project))
    } catch (error) {
      if (isSettingsError(error)) return new ResponseError(ErrorCodes.InvalidParams, listSentences(error))
      throw error
    }
  })
  connection.onCodeAction(async ({ textDocument, context }) => {
    const found = await server.find(textDocument.uri)
    if (found === null) return null
    const { project, file } = found
    if (project.isLayer(file)) return listQuickFixes(project, file, textDocument.uri, context.diagnostics)
    const { listHintFixes: hintFixes } = await import('./features/source-hints.ts')
    return hintFixes(textDocument.uri, context.diagnostics)
  })
  connection.onExecuteCommand(({ command, arguments: words = [] }) => execute(connection, server, command, words))
}

/** Carries out a command, and says what came of it. */
async function execute(
  connection: Connection,
  server: Documents,
  command: string,
  words: readonly unknown[],
): Promise<null> {
  const [uri, what] = words
  const found = typeof uri === 'string' ? await server.find(uri) : null
  if (found === null) return null
  const { ignoreFile, moveFinding, moveSecret } = await import('./features/commands.ts')
  const commands: Readonly<Record<string, (found: ProjectFile) => ReturnType<typeof ignoreFile>>> = {
    [MOVE_SECRET]: ({ project, file }) => moveSecret(project, file, String(what)),
    [IGNORE_FILE]: ({ project, file }) => ignoreFile(project, file),
    [MOVE_FINDING]: ({ project, file }) => moveFinding(project, file, what as Parameters<typeof moveFinding>[2]),
  }
  const carryOut = Object.hasOwn(commands, command) ? commands[command] : undefined
  if (carryOut === undefined) return null
  try {
    const { message, edit } = await carryOut(found)
    if (edit !== null) await connection.workspace.applyEdit(edit)
    say(connection, 3, message)
    await server.refresh(found.project)
  } catch (error) {
    if (!isSettingsError(error)) throw error
    say(connection, 1, listSentences(error))
  }
  return null
}

const listSentences = ({ problems }: SettingsError) => problems.map((each) => `${each.message} ${each.hint}`).join('\n')

/** Shows a person a sentence; `1` is an error, `3` is for information. */
function say(connection: Connection, type: 1 | 3, message: string): void {
  connection.sendNotification('window/showMessage', { type, message }).catch(() => {
    // The editor is gone, and nobody is left to tell.
  })
}
