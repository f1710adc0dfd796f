import { readFileSync } from 'node:fs'
import { createRequire, isBuiltin } from 'node:module'
import { fileURLToPath } from 'node:url'
import { unwrapExport } from '@mappa/node/project/definition/exported'
import * as vite from 'vite'

/**
 * Runs a definition by Vite, which knows TypeScript on every Node and reads all of it again each time, also what it imports.
 *
 * @returns what it exports by default
 */
export async function runByVite(path: string): Promise<unknown> {
  const alone = await runAlone(path)
  if (alone !== null) return unwrapExport(alone)
  try {
    const { module } = await vite.runnerImport<object>(path, {
      configFile: false,
      envDir: false,
      logLevel: 'silent',
      plugins: [withThisPackage()],
    })
    return unwrapExport(module)
  } catch (error) {
    if (isCommonJs(error) && /\.c?js$/.test(path)) return requireAgain(path)
    throw error
  }
}

/** Turns TypeScript into JavaScript: Vite 8 has one function for it, 6 and 7 have another. */
const { transformWithOxc, transformWithEsbuild } = vite as Partial<Pick<typeof vite, 'transformWithEsbuild'>> & {
  readonly transformWithOxc?: (code: string, file: string) => Promise<{ code: string }>
}

/** Makes each run a module of its own: Node runs the same text only once, but what a definition reads may have changed. */
let runs = 0

/**
 * Runs a definition that imports nothing but `mappa-settings` and modules of Node, as nearly all do: that takes a tenth of the time.
 *
 * @returns its exports; `null` if it imports more or can't be run this way, also if it is wrong: whoever runs it next says why
 */
async function runAlone(path: string): Promise<object | null> {
  try {
    const source = readFileSync(path, 'utf8')
    const transform = transformWithOxc ?? transformWithEsbuild
    const code = /\.[cm]?ts$/.test(path) ? (await transform!(source, path)).code : source
    // What depends on the place of the file, or is imported later, is left to Vite.
    if (/\brequire\b|\bimport\s*[.(/]/.test(code)) return null
    const whole = withOwnImports(code)
    if (whole === null) return null
    const module = `${whole}\n// ${++runs}`
    return (await import(`data:text/javascript;base64,${Buffer.from(module).toString('base64')}`)) as object
  } catch {
    return null
  }
}

/** The code with the place of this package instead of its name; `null` if it imports something besides that and modules of Node. */
function withOwnImports(code: string): string | null {
  let whole = code
  for (const statement of vite.parseAst(code).body.toReversed()) {
    if (!('source' in statement) || !statement.source) continue
    const name = statement.source.value
    if (name === 'mappa-settings') {
      const { start, end } = statement.source as unknown as { readonly start: number; readonly end: number }
      whole = whole.slice(0, start) + JSON.stringify(import.meta.resolve('mappa-settings')) + whole.slice(end)
    } else if (!isBuiltin(String(name))) {
      return null
    }
  }
  return whole
}

/** The definition gets the same package that reads it, wherever that is installed. */
function withThisPackage(): vite.Plugin {
  return {
    name: 'mappa:definition',
    enforce: 'pre',
    resolveId(id) {
      return id === 'mappa-settings'
        ? { id: fileURLToPath(import.meta.resolve('mappa-settings')), external: true }
        : null
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
  return unwrapExport(require(path) as object)
}
