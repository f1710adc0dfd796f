/** What the bundler tells about a module. */
interface Modules {
  readonly getModuleInfo: (id: string) => { readonly isEntry: boolean; readonly importedIds: readonly string[] } | null
}

/**
 * Decides which chunk a module goes to, by what imports what and by where it lies, so that no list of paths has to be kept:
 *
 * - Everything that a program loads when it starts is one chunk, since Node takes longer to open a file than to read it.
 * - Of the rest, each directory is a chunk. What is built in of another package is a chunk of its own.
 *
 * @param start the entries that a program imports when it starts
 */
export function chunks(start: readonly string[]): (id: string, modules: Modules) => string | null {
  let loadedAtStart: ReadonlySet<string> | null = null
  return (id, modules) => {
    const [, inside] = /\/packages\/[^/]+\/src\/(.*)$/.exec(id) ?? []
    // It finds the parser by its own place, which has to be the directory of chunks.
    if (id.endsWith('/build/lazy-parser.ts')) return 'parser'
    if (inside === undefined) return packageOf(id)
    // An entry is a file of its own.
    if (modules.getModuleInfo(id)?.isEntry === true) return null
    loadedAtStart ??= staticImports(start, modules)
    return loadedAtStart.has(id) ? 'start' : inside.split('/').slice(0, -1).join('-')
  }
}

function packageOf(id: string): string | null {
  return /\/node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(id)?.[1]?.replaceAll(/[@/]/g, '') ?? null
}

/** All modules that some modules import, without what they import only when they run. */
function staticImports(entries: readonly string[], modules: Modules): ReadonlySet<string> {
  const found = new Set(entries)
  for (const id of found) for (const each of modules.getModuleInfo(id)?.importedIds ?? []) found.add(each)
  return found
}
