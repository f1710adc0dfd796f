import { posix } from 'node:path'
import type { Plugin, Rollup } from 'vite'
import type { Session } from '../session/session.ts'
import { SERVER_ID } from './modules.ts'

type Bundle = Readonly<Record<string, Rollup.OutputChunk | Rollup.OutputAsset>>

/**
 * Has a built server load its settings before anything else. Frameworks load routes and hooks when the first request comes: a server whose
 * settings are missing would listen, and fail then. Where private settings may be missing in the build, frameworks that run the server while
 * they build it would end there, so it is left as it is.
 */
export function checkAtStart(session: Session): Plugin {
  return {
    name: 'mappa:start',
    generateBundle({ format }, bundle) {
      const { config } = this.environment
      if (config.consumer !== 'server' || config.command !== 'build' || format !== 'es') return
      if (!session.state.usable || session.options.allowMissingPrivate === true) return
      const chunks = Object.values(bundle as Bundle).filter((each) => each.type === 'chunk')
      const settings = chunks.find(({ modules }) => SERVER_ID in modules)
      if (settings === undefined) return
      for (const entry of chunks.filter(({ isEntry }) => isEntry))
        if (isLate(settings, { from: entry, bundle })) insertImport(entry, settings.fileName, bundle)
    },
  }
}

interface Start {
  readonly from: Rollup.OutputChunk
  readonly bundle: Bundle
}

/** True if an entry loads the settings, but not before it runs. Two chunks that need each other can't be put into an order. */
function isLate(settings: Rollup.OutputChunk, { from, bundle }: Start): boolean {
  const getImports = ({ imports }: Rollup.OutputChunk) => imports
  const getAll = ({ imports, dynamicImports }: Rollup.OutputChunk) => [...imports, ...dynamicImports]
  if (isReached(settings, { from, bundle }, getImports)) return false
  return isReached(settings, { from, bundle }, getAll) && !isReached(from, { from: settings, bundle }, getImports)
}

/** True if a chunk is loaded from another one. */
function isReached(
  wanted: Rollup.OutputChunk,
  { from, bundle }: Start,
  getNext: (chunk: Rollup.OutputChunk) => readonly string[],
): boolean {
  const seen = new Set<string>()
  const waiting = [from.fileName]
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    if (next === wanted.fileName) return true
    const chunk = bundle[next]
    if (seen.has(next) || chunk?.type !== 'chunk') continue
    seen.add(next)
    waiting.push(...getNext(chunk))
  }
  return false
}

/** Puts an import before the first statement of a chunk, on a line of its own. */
function insertImport(chunk: Rollup.OutputChunk, file: string, bundle: Bundle): void {
  const path = posix.relative(posix.dirname(chunk.fileName), file)
  const line = `import ${JSON.stringify(path.startsWith('.') ? path : `./${path}`)};\n`
  const [hashbang = ''] = /^#!.*\n/.exec(chunk.code) ?? []
  chunk.code = hashbang + line + chunk.code.slice(hashbang.length)
  const map = bundle[chunk.sourcemapFileName ?? '']
  if (map?.type === 'asset') map.source = shiftMap(String(map.source))
  if (chunk.map) chunk.map.mappings = `;${chunk.map.mappings}`
}

/** A source map (ECMA-426) of code that has got one line more at its beginning. */
function shiftMap(text: string): string {
  const map = JSON.parse(text) as { mappings: string }
  return JSON.stringify({ ...map, mappings: `;${map.mappings}` })
}
