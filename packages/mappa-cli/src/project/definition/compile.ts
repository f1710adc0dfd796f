import { createRequire } from 'node:module'
import { compileFunction } from 'node:vm'
import { defineSettings } from '../../../../mappa/src/core/definition/define.ts'
import { fs, path } from '../../../../mappa/src/node/fs/builtin.ts'
import { version } from '../../version.ts'
import { cacheDirectory, readOwn, writeOwn } from '../own-cache.ts'

const { readFileSync } = fs
const { join, relative } = path

/** JavaScript made from a TypeScript definition, with the text it was made from. */
interface Compiled {
  readonly version: string
  readonly source: string
  readonly code: string
}

/**
 * Runs a TypeScript definition that imports nothing but `mappa` and modules of Node, which is what nearly all of
 * them are. The JavaScript made from it is kept under `node_modules/.cache/mappa`, together with the text it was
 * made from: only when that text is still the same, to the letter, is it used again.
 *
 * @param file the absolute path of the definition
 * @param root the directory of the project
 * @param source its text; what the file holds if left out
 * @returns what the module exports, or `null` where it imports more or needs another way of loading
 * @throws whatever the definition throws
 */
export async function runCompiled(
  file: string,
  root: string,
  source = readFileSync(file, 'utf8'),
): Promise<Record<string, unknown> | null> {
  const cacheFile = placeInCache(root, file)
  let compiled = cacheFile === null ? null : readCache(cacheFile, source)
  if (compiled === null) {
    compiled = { version, source, code: await compile(source, file) }
    if (cacheFile !== null) writeOwn(cacheFile, JSON.stringify(compiled))
  }
  return run(compiled.code, file, await namesFor(compiled.code))
}

/** What a definition imports from `mappa`: nearly always these two, which are loaded already. */
async function namesFor(code: string): Promise<object> {
  const asked = [...code.matchAll(/\b_mappa\d*\.(\w+)/g)].map(([, name]) => name!)
  const known = asked.every((name) => name === 'defineSettings' || name === 'setting')
  // Loaded here and not above, so that the library has no namespace object, which would keep all of it in bundles.
  if (asked.length === 0 || !known || code.includes('Wildcard')) return import('../../../../mappa/src/core/index.ts')
  return { defineSettings, setting: await import('../../../../mappa/src/core/definition/kinds/index.ts') }
}

async function compile(source: string, filename: string): Promise<string> {
  const { createJiti } = await import('jiti')
  const code = createJiti(filename, { fsCache: false }).transform({ source, filename, ts: true, async: false })
  const failed = /^exports\.__JITI_ERROR__ = (\{.*\})\s*$/.exec(code)
  if (failed === null) return code
  // The compiler does not throw; it writes down what is wrong, with the column counted from 0.
  const { line, column, message } = JSON.parse(failed[1]!) as { line: number; column: number; message: string }
  throw Object.assign(new SyntaxError(message.trim()), { line, column: column + 1 })
}

function run(code: string, file: string, mappa: object): Record<string, unknown> | null {
  // The compiler writes each import as a call of require, and import.meta and import() as names of its own.
  if (/\bjiti[A-Z]|\bimport\b/.test(code)) return null
  const imported = [...code.matchAll(/\brequire\("([^"]*)"\)/g)].map((match) => match[1]!)
  if (imported.some((each) => each !== 'mappa' && !each.startsWith('node:'))) return null
  const builtin = createRequire(file)
  const module = { exports: {} as Record<string, unknown> }
  let body: ReturnType<typeof compileFunction>
  try {
    body = compileFunction(code, ['exports', 'require', 'module'], { filename: file })
  } catch {
    return null
  }
  body(module.exports, (name: string) => (name === 'mappa' ? mappa : builtin(name)), module)
  return module.exports
}

/** Where the compiled form of a definition is kept; `null` where there is no place for it. */
function placeInCache(root: string, file: string): string | null {
  const directory = cacheDirectory(root)
  const name = relative(root, file).replace(/[^A-Za-z0-9.]+/g, '-')
  return directory === null ? null : join(directory, `${name}.json`)
}

function readCache(cacheFile: string, source: string): Compiled | null {
  const text = readOwn(cacheFile)
  try {
    const cached = JSON.parse(text ?? 'null') as Compiled | null
    return cached?.version === version && cached.source === source ? cached : null
  } catch {
    return null
  }
}
