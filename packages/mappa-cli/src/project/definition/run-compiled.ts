import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { compileFunction } from 'node:vm'
import { defineSettings } from '@mappa/core/definition/define'
import { resolveImport } from '@mappa/node/project/definition/imports'
import { compiled } from './compile.ts'

/** What a module exports. */
type Exports = Record<string, unknown>

/** A compiled module of a definition, and the files that its relative imports mean. */
interface Part {
  readonly code: string
  readonly imported: ReadonlyMap<string, string>
}

/**
 * Runs a TypeScript definition that imports nothing but `mappa-settings`, modules of Node, and other files by relative paths, which is what
 * nearly all of them are.
 *
 * @param file the absolute path of the definition
 * @param root the directory of the project
 * @param source its text; what the file holds if left out
 * @returns what the module exports, or `null` where it imports more or needs another way of loading
 * @throws whatever the definition throws
 */
export async function runCompiled(file: string, root: string, source?: string): Promise<Exports | null> {
  const parts = await listParts(file, root, source ?? readFileSync(file, 'utf8'))
  return parts === null ? null : run(file, parts, await provideNames([...parts.values()].map(({ code }) => code)))
}

/** A definition and what it imports, compiled, by absolute paths; `null` where one of them has to be loaded in another way. */
async function listParts(file: string, root: string, source: string): Promise<ReadonlyMap<string, Part> | null> {
  const parts = new Map<string, Part>()
  const waiting = [file]
  for (const each of waiting) {
    if (parts.has(each)) continue
    const code = each === file ? await compiled(file, root, source) : await codeOfPart(each, root)
    const imported = listImports(code, each)
    if (imported === null) return null
    parts.set(each, { code, imported })
    waiting.push(...imported.values())
  }
  return parts
}

/**
 * What a definition imports, compiled.
 *
 * @throws {SyntaxError} with the path as `part`
 */
async function codeOfPart(file: string, root: string): Promise<string> {
  try {
    return await compiled(file, root, readFileSync(file, 'utf8'))
  } catch (error) {
    throw Object.assign(error as Error, { part: file })
  }
}

/** The files that a module imports by relative paths; `null` where it imports anything that is not run here. */
function listImports(code: string, file: string): ReadonlyMap<string, string> | null {
  // The compiler writes each import as a call of require, and import.meta and import() as names of its own.
  if (/\bjiti[A-Z]|\bimport\b/.test(code)) return null
  const found = new Map<string, string>()
  for (const [, specifier] of code.matchAll(/\brequire\("([^"]*)"\)/g)) {
    if (specifier === 'mappa-settings' || specifier!.startsWith('node:')) continue
    const target = /^\.{1,2}\//.test(specifier!) ? resolveImport(specifier!, file) : undefined
    if (target === undefined || !/\.[cm]?[jt]s$/.test(target)) return null
    found.set(specifier!, target)
  }
  return found
}

/** What definitions import from `mappa-settings`: nearly always these, which are loaded already. */
async function provideNames(codes: readonly string[]): Promise<object> {
  const asked = codes.flatMap((code) => [...code.matchAll(/\b_mappaSettings\d*\.(\w+)/g)].map(([, name]) => name!))
  const isKnown = asked.every((name) => name === 'defineSettings' || name === 'setting')
  // Loaded here and not above, so that the library has no namespace object, which would keep all of it in bundles.
  if (asked.length === 0 || !isKnown || codes.some((code) => code.includes('Wildcard'))) return import('@mappa/core')
  return { defineSettings, setting: await import('@mappa/core/definition/kinds') }
}

function run(file: string, parts: ReadonlyMap<string, Part>, mappa: object): Exports | null {
  const bodies = new Map<string, ReturnType<typeof compileFunction>>()
  try {
    for (const [each, { code }] of parts)
      bodies.set(each, compileFunction(code, ['exports', 'require', 'module'], { filename: each }))
  } catch {
    return null
  }
  const modules = new Map<string, { exports: Exports }>()
  const load = (each: string): Exports => {
    const loaded = modules.get(each)
    if (loaded !== undefined) return loaded.exports
    const module = { exports: {} as Exports }
    modules.set(each, module)
    const { imported } = parts.get(each)!
    const builtin = createRequire(each)
    const find = (name: string): unknown => {
      const target = imported.get(name)
      if (target !== undefined) return load(target)
      return name === 'mappa-settings' ? mappa : builtin(name)
    }
    bodies.get(each)!(module.exports, find, module)
    return module.exports
  }
  return load(file)
}
