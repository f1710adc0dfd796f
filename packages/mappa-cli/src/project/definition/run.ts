import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { unwrapExport } from '@mappa/node/project/definition/exported'
import { forgetModules, listDefinitionParts } from '@mappa/node/project/definition/imports'
import { isPackageMissing } from '@mappa/node/project/definition/needs-loader'
import { runCompiled } from './run-compiled.ts'

/**
 * Runs a definition, on every Node, whatever TypeScript it holds, also where the library is not installed beside it.
 *
 * @param path the absolute path of the file, TypeScript or JavaScript
 * @param root the directory of the project
 * @param text a source to take instead of what the file holds, to try it before it is written
 * @param again true to read it and what it imports again, whatever this process has loaded before
 * @returns what it exports by default
 */
export async function runDefinition(path: string, root: string, text?: string, again = false): Promise<unknown> {
  // Node runs a module once in a process.
  if (text === undefined && !again && /\.[cm]?js$/.test(path)) {
    try {
      return ((await import(pathToFileURL(path).href)) as { default?: unknown }).default
    } catch (error) {
      if (!isPackageMissing(error)) throw error
    }
  }
  const compiled = await runCompiled(path, root, text)
  if (compiled !== null) return unwrapExport(compiled)
  const { createJiti } = await import('jiti')
  if (again) {
    forgetModules(listDefinitionParts(path))
    // Waiting for modules leaves those in JavaScript to Node, which runs each once.
    if (!/\bawait\b/.test(readFileSync(path, 'utf8'))) return runDefinitionNow(path)
  }
  const virtualModules = { 'mappa-settings': await import('@mappa/core') }
  const jiti = createJiti(path, { virtualModules, fsCache: false, moduleCache: !again })
  if (text === undefined) return jiti.import(path, { default: true })
  return unwrapExport((await jiti.evalModule(text, { filename: path, async: true })) as object)
}

/**
 * The same without waiting, for configurations of bundlers. The definition and what it imports are read again each time.
 *
 * @param path the absolute path of the file
 */
export function runDefinitionNow(path: string): unknown {
  const { createJiti } = createRequire(import.meta.url)('jiti') as typeof import('jiti')
  return unwrapExport(
    createJiti(path, { virtualModules: ownLibrary(), fsCache: false, moduleCache: false })(path) as object,
  )
}

/** The definition gets the same library that reads it, which is built into this package, and loaded: it is not compiled once more. */
function ownLibrary(): { readonly 'mappa-settings': object } {
  const own = createRequire(import.meta.url)
  return { 'mappa-settings': own(join(dirname(own.resolve('mappa-cli/definition-loader')), 'library.js')) }
}
