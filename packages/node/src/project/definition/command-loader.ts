import { findCommandPart } from '../command-part.ts'

const { createRequire } = process.getBuiltinModule('node:module')
const { pathToFileURL } = process.getBuiltinModule('node:url')

/** What `mappa-cli/definition-loader` exports. */
export interface CommandLoader {
  /** Runs a definition and gives what it exports by default. */
  readonly runDefinition: (path: string, root: string) => Promise<unknown>
  /** The same without waiting; the definition and what it imports are read again each time. */
  readonly runDefinitionNow: (path: string) => unknown
}

/** The loader of the command; `null` if `mappa-cli` is not installed in the project. */
export async function loadCommandLoader(root: string): Promise<CommandLoader | null> {
  const file = findCommandPart(root, 'definition-loader')
  return file === null ? null : ((await import(pathToFileURL(file).href)) as CommandLoader)
}

/** The same without waiting. */
export function loadCommandLoaderNow(root: string): CommandLoader | null {
  const file = findCommandPart(root, 'definition-loader')
  return file === null ? null : (createRequire(file)(file) as CommandLoader)
}
