import { createRequire } from 'node:module'
import { compileFunction } from 'node:vm'
import { version } from '../../version.ts'
import { fs, path } from '../builtin.ts'

const { mkdirSync, readFileSync, renameSync, writeFileSync } = fs
const { dirname, join, relative } = path

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
 * @param file the whole path of the definition
 * @param root the folder of the project
 * @returns what the module exports, or `null` where it imports more or needs another way of loading
 * @throws whatever the definition throws
 */
export async function runCompiled(file: string, root: string): Promise<Record<string, unknown> | null> {
  const source = readFileSync(file, 'utf8')
  const cacheFile = join(
    root,
    'node_modules/.cache/mappa',
    `${relative(root, file).replace(/[^A-Za-z0-9.]+/g, '-')}.json`,
  )
  let compiled = readCache(cacheFile, source)
  if (compiled === null) {
    compiled = { version, source, code: await compile(source, file) }
    writeCache(join(root, 'node_modules'), cacheFile, compiled)
  }
  // Loaded here and not above, so that the library has no namespace object, which would keep all of it in bundles.
  return run(compiled.code, file, await import('../../core/index.ts'))
}

async function compile(source: string, filename: string): Promise<string> {
  const { createJiti } = await import('jiti')
  return createJiti(filename, { fsCache: false }).transform({ source, filename, ts: true, async: false })
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

function readCache(cacheFile: string, source: string): Compiled | null {
  try {
    const cached = JSON.parse(readFileSync(cacheFile, 'utf8')) as Compiled
    return cached.version === version && cached.source === source ? cached : null
  } catch {
    return null
  }
}

/** Keeps the result for the next time. A folder that can't be written to is no fault: it is made anew then. */
function writeCache(modules: string, cacheFile: string, compiled: Compiled): void {
  try {
    // Only where packages are installed anyway, never a new folder in somebody's project.
    readFileSync(join(modules, '.package-lock.json'))
    mkdirSync(dirname(cacheFile), { recursive: true })
    const draft = `${cacheFile}.${process.pid}`
    writeFileSync(draft, JSON.stringify(compiled))
    renameSync(draft, cacheFile)
  } catch {}
}
