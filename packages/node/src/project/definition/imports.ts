import { fs, path } from '../../fs/builtin.ts'

const { createRequire, isBuiltin } = process.getBuiltinModule('node:module')

/** The files that a definition is made of, and what else it may depend on. */
export interface DefinitionParts {
  /** Absolute paths, the definition first, then what it imports of the project, and they in turn. */
  readonly files: readonly string[]
  /** The modules, as they are imported, through which it may read files that nobody can tell from its text. */
  readonly unknown: readonly string[]
}

const IMPORTS =
  /(?:\b(?:import|export)\b[^'"()]*?\bfrom\s*|\bimport\s*\(?\s*|\brequire\s*\(\s*)(["'])((?:(?!\1)[^\s\\])+)\1/g
const ENDINGS = ['', '.ts', '.mts', '.cts', '.js', '.mjs', '.cjs', '.json', '/index.ts', '/index.js']
/** Modules of Node that read files, or run something that may. */
const READERS: ReadonlySet<string> = new Set(['fs', 'fs/promises', 'child_process', 'module'])

/**
 * Finds the files that a definition is made of: itself, and what it imports by relative paths, by names of its own `package.json`
 * (`#name`) or from packages of the same repository, and they in turn. Installed packages are not followed.
 *
 * @param file the absolute path of the definition
 */
export function listDefinitionParts(file: string): DefinitionParts {
  const files = new Set([file])
  const unknown = new Set<string>()
  for (const each of files) {
    for (const specifier of listImports(each)) {
      const target = isBuiltin(specifier) ? classifyBuiltin(specifier) : getTarget(specifier, each)
      if (target === 'unknown') unknown.add(specifier)
      else if (target !== null) files.add(target)
    }
  }
  return { files: [...files], unknown: [...unknown] }
}

/** Has Node read what a definition imports again: a loader leaves CommonJS modules of other packages to it. */
export function forgetModules({ files: [file = '', ...imported] }: DefinitionParts): void {
  const { cache } = createRequire(file)
  for (const each of imported) delete cache[each]
}

function listImports(file: string): string[] {
  try {
    const text = fs.readFileSync(file, 'utf8').replace(/^\s*\/\/.*/gm, '')
    return file.endsWith('.json') ? [] : [...text.matchAll(IMPORTS)].map((match) => match[2]!)
  } catch {
    return []
  }
}

function classifyBuiltin(builtin: string): 'unknown' | null {
  return READERS.has(builtin.replace(/^node:/, '')) ? 'unknown' : null
}

/** The file that an import means; `null` where it is no file of the project. */
function getTarget(specifier: string, importer: string): string | 'unknown' | null {
  if (/^\.{1,2}(?:\/|$)/.test(specifier)) return resolveImport(specifier, importer) ?? null
  if (/^mappa-settings(?:\/|$)/.test(specifier)) return null
  try {
    const target = createRequire(importer).resolve(specifier)
    return isInstalled(target) ? null : target
  } catch {
    // An alias of a compiler or a bundler; or a package that can only be imported.
    const directory = findPackageDirectory(specifier, importer)
    return directory !== undefined && isInstalled(directory) ? null : 'unknown'
  }
}

/** The file that a relative import means, as compilers find it; `undefined` where there is none. */
export function resolveImport(specifier: string, importer: string): string | undefined {
  const start = path.resolve(path.dirname(importer), specifier)
  const isFile = (one: string) => fs.statSync(one, { throwIfNoEntry: false })?.isFile() === true
  // TypeScript has imports name the file that will be made.
  const sources = /\.[cm]?js$/.test(start) ? [start, start.replace(/js$/, 'ts')] : []
  return [...sources, ...ENDINGS.map((ending) => start + ending)].find(isFile)
}

/** What lies there was installed, and does not change while something runs. Packages of the same repository are links out of it. */
function isInstalled(target: string): boolean {
  return target.split(path.sep).includes('node_modules')
}

function findPackageDirectory(specifier: string, importer: string): string | undefined {
  const [name] = /^(?:@[^/]+\/)?[^/]+/.exec(specifier) ?? [specifier]
  const places = createRequire(importer).resolve.paths(specifier) ?? []
  const found = places.map((place) => path.join(place, name)).find((one) => fs.existsSync(one))
  return found === undefined ? undefined : fs.realpathSync(found)
}
