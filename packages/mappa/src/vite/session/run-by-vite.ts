import { createRequire } from 'node:module'
import { fileURLToPath } from 'node:url'
import { type Plugin, runnerImport } from 'vite'
import { isDefinition } from '../../core/definition/definition.ts'

/**
 * Runs a definition by Vite, which knows TypeScript on every Node and reads all of it again each time, also what it imports.
 *
 * @returns what it exports by default
 */
export async function runByVite(path: string): Promise<unknown> {
  try {
    const { module } = await runnerImport<{ default?: unknown }>(path, {
      configFile: false,
      envDir: false,
      logLevel: 'silent',
      plugins: [withThisPackage()],
    })
    return isDefinition(module) ? module : module.default
  } catch (error) {
    if (isCommonJs(error) && /\.c?js$/.test(path)) return requireAgain(path)
    throw error
  }
}

/** The definition gets the same package that reads it, wherever that is installed. */
function withThisPackage(): Plugin {
  return {
    name: 'mappa:definition',
    enforce: 'pre',
    resolveId(id) {
      return id === 'mappa' ? { id: fileURLToPath(import.meta.resolve('mappa')), external: true } : null
    },
  }
}

/** Vite runs ES modules only. */
function isCommonJs(error: unknown): boolean {
  return error instanceof ReferenceError && /^(module|exports|require) is not defined/.test(error.message)
}

function requireAgain(path: string): unknown {
  const require = createRequire(path)
  delete require.cache[require.resolve(path)]
  const module = require(path) as { default?: unknown }
  return isDefinition(module) ? module : module.default
}
