/** What the bundler tells about a module. */
interface Modules {
  readonly getModuleInfo: (id: string) => ModuleInfo | null
}

interface ModuleInfo {
  readonly isEntry: boolean
  readonly importedIds: readonly string[]
  readonly dynamicallyImportedIds: readonly string[]
}

/**
 * Decides which chunk a module goes to, by what imports what and by where it lies, so that no list of paths has to be kept:
 *
 * - Everything that a program loads when it starts is two chunks, since Node takes longer to open a file than to read it: what runs
 *   anywhere, and what needs Node.
 * - What another entry imports at once is two chunks, if that is asked for: what it has alone, and what others need as well.
 * - Of the rest, each directory is a chunk. What is built in of another package is a chunk of its own, and so is the index of a package: it
 *   imports from directories that import what lies beside it, and one chunk for both would be a circle of chunks.
 *
 * @param start the entries that a program imports when it starts
 * @param also such an entry, the name of the chunk that it has alone, and the other entries
 */
export function chunks(
  start: readonly string[],
  also?: { readonly chunk: string; readonly entry: string; readonly others: readonly string[] },
): (id: string, modules: Modules) => string | null {
  let plan: ReadonlyMap<string, string> | null = null
  return (id, modules) => {
    // It finds the parser by its own place, which has to be the directory of chunks.
    if (id.endsWith('/build/lazy-parser.ts')) return 'parser'
    const [, owner = '', inside] = /\/packages\/([^/]+)\/src\/(.*)$/.exec(id) ?? []
    // An entry is a file of its own.
    if (inside !== undefined && modules.getModuleInfo(id)?.isEntry === true) return null
    plan ??= new Map([...(also === undefined ? [] : chunksOf(also, modules)), ...namesOf(start, 'start', modules)])
    if (inside === 'index.ts') return plan.get(id) ?? `${owner}-index`
    return plan.get(id) ?? (inside === undefined ? packageOf(id) : [owner, ...inside.split('/').slice(0, -1)].join('-'))
  }
}

function namesOf(entries: readonly string[], chunk: string, modules: Modules): [string, string][] {
  return [...importsOf(entries, modules, false)].filter(isSource).map((id) => [id, chunk + toSuffix(id)])
}

/** What an entry imports at once: what it has alone, and what others need too. */
function chunksOf(
  { chunk, entry, others }: NonNullable<Parameters<typeof chunks>[1]>,
  modules: Modules,
): [string, string][] {
  const elsewhere = importsOf(others, modules, true)
  return [...importsOf([entry], modules, false)].map((id) => [id, elsewhere.has(id) ? `common${toSuffix(id)}` : chunk])
}

/** What needs Node is a chunk of its own: pages and edge functions import the rest. */
const toSuffix = (id: string) => (/\/packages\/(?:core|mappa-settings)\/src\//.test(id) ? '' : '-node')

const isSource = (id: string) => /\/packages\/[^/]+\/src\//.test(id)

function packageOf(id: string): string | null {
  return /\/node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(id)?.[1]?.replaceAll(/[@/]/g, '') ?? null
}

/**
 * All modules that some modules import.
 *
 * @param later true for those as well that they import when they run
 */
function importsOf(entries: readonly string[], modules: Modules, later: boolean): ReadonlySet<string> {
  const found = new Set(entries)
  for (const id of found) {
    const { importedIds = [], dynamicallyImportedIds = [] } = modules.getModuleInfo(id) ?? {}
    for (const each of later ? [...importedIds, ...dynamicallyImportedIds] : importedIds) found.add(each)
  }
  return found
}
