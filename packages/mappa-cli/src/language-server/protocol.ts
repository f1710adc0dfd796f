const { createRequire } = process.getBuiltinModule('node:module')

/**
 * The Language Server Protocol (3.17), by the package that most servers use. It is CommonJS, and required rather than imported: importing
 * it makes Node read each of its files twice.
 */
const load = createRequire(import.meta.url)

export const { createConnection, ProposedFeatures, TextDocuments, ResponseError, ErrorCodes } = load(
  'vscode-languageserver/node',
) as typeof import('vscode-languageserver/node')

export const { TextDocument } = load(
  'vscode-languageserver-textdocument',
) as typeof import('vscode-languageserver-textdocument')
