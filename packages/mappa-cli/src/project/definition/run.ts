import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { isDefinition } from '../../../../mappa/src/core/definition/definition.ts'
import { runCompiled } from './compile.ts'

/**
 * Runs a definition, on every Node, whatever TypeScript it holds, also where the library is not installed beside it.
 *
 * @param path the absolute path of the file, TypeScript or JavaScript
 * @param root the directory of the project
 * @param text a source to take instead of what the file holds, to try it before it is written
 * @returns what it exports by default
 */
export async function runDefinition(path: string, root: string, text?: string): Promise<unknown> {
  if (text === undefined && /\.[cm]?js$/.test(path)) {
    try {
      return ((await import(pathToFileURL(path).href)) as { default?: unknown }).default
    } catch (error) {
      if (!isPackageMissing(error)) throw error
    }
  }
  const compiled = await runCompiled(path, root, text)
  // What CommonJS exports is its default.
  if (compiled !== null) return isDefinition(compiled) ? compiled : compiled.default
  const { createJiti } = await import('jiti')
  const jiti = createJiti(path, { alias: ownLibrary(), fsCache: false })
  if (text === undefined) return jiti.import(path, { default: true })
  const module = (await jiti.evalModule(text, { filename: path, async: true })) as { default?: unknown }
  return isDefinition(module) ? module : module.default
}

/**
 * The same without waiting, for configurations of bundlers. The definition and what it imports are read again each time.
 *
 * @param path the absolute path of the file
 */
export function runDefinitionNow(path: string): unknown {
  const { createJiti } = createRequire(import.meta.url)('jiti') as typeof import('jiti')
  const module = createJiti(path, { alias: ownLibrary(), fsCache: false, moduleCache: false })(path) as {
    default?: unknown
  }
  return isDefinition(module) ? module : module.default
}

/** The definition gets the same library that reads it, which is built into this package. */
function ownLibrary(): { readonly mappa: string } {
  const loader = createRequire(import.meta.url).resolve('mappa-cli/definition-loader')
  return { mappa: join(dirname(loader), 'library.js') }
}

/** True if the library is not installed beside the definition. */
function isPackageMissing(error: unknown): boolean {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown }
  return code === 'ERR_MODULE_NOT_FOUND' && /package 'mappa'/.test(String(message))
}
