import { version } from '@mappa/core/version'
import { path } from '@mappa/node/fs/builtin'
import { cacheDirectory, readOwn, writeOwn } from '../own-cache.ts'

const { join, relative } = path

/** JavaScript made from a module, with the text it was made from. */
interface Compiled {
  readonly version: string
  readonly source: string
  readonly code: string
}

/** What this process has compiled, or read from the cache, by paths. */
const known = new Map<string, Compiled>()

/**
 * Makes a CommonJS module of one in TypeScript or JavaScript. It is kept under `node_modules/.cache/mappa`, together with the text it
 * was made from: only when that text is still the same, to the letter, is it used again.
 *
 * @param file the absolute path of the module
 * @param root the directory of the project
 * @param source its text
 * @throws {SyntaxError} with the line and the column, both from 1
 */
export async function compiled(file: string, root: string, source: string): Promise<string> {
  const own = known.get(file)
  if (own?.source === source) return own.code
  const cacheFile = placeInCache(root, file)
  let found = cacheFile === null ? null : readCache(cacheFile, source)
  if (found === null) {
    found = { version, source, code: await compile(source, file) }
    if (cacheFile !== null) writeOwn(cacheFile, JSON.stringify(found))
  }
  known.set(file, found)
  return found.code
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

/** Where the compiled form of a module is kept; `null` where there is no place for it. */
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
