import { posix } from 'node:path'
import type { Plugin, Rollup } from 'vite'
import type { Session } from '../session/session.ts'
import { SERVER_ID } from './modules.ts'

type Bundle = Readonly<Record<string, Rollup.OutputChunk | Rollup.OutputAsset>>

/**
 * Has a built server load its settings before anything else. Frameworks load routes and hooks when the first request comes: a server whose
 * settings are missing would listen, and fail then.
 */
export function checkAtStart(session: Session): Plugin {
  return {
    name: 'mappa:start',
    generateBundle({ format }, bundle) {
      const { config } = this.environment
      if (config.consumer !== 'server' || config.command !== 'build' || format !== 'es') return
      if (!session.state.usable) return
      const chunks = Object.values(bundle as Bundle).filter((each) => each.type === 'chunk')
      const settings = chunks.find(({ modules }) => SERVER_ID in modules)
      if (settings === undefined) return
      for (const entry of chunks.filter(({ isEntry }) => isEntry)) {
        // What is loaded anyway comes first; what needs the entry itself would wait for it for ever.
        if (isReached(settings, entry, bundle) || isReached(entry, settings, bundle)) continue
        insertImport(entry, settings.fileName, bundle)
      }
    },
  }
}

/** True if a chunk is loaded together with another one. */
function isReached(wanted: Rollup.OutputChunk, from: Rollup.OutputChunk, bundle: Bundle): boolean {
  const seen = new Set<string>()
  const waiting = [from.fileName]
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    if (next === wanted.fileName) return true
    const chunk = bundle[next]
    if (seen.has(next) || chunk?.type !== 'chunk') continue
    seen.add(next)
    waiting.push(...chunk.imports)
  }
  return false
}

/** Puts an import before the first statement of a chunk, on a line of its own. */
function insertImport(chunk: Rollup.OutputChunk, file: string, bundle: Bundle): void {
  const path = posix.relative(posix.dirname(chunk.fileName), file)
  const line = `await import(${JSON.stringify(path.startsWith('.') ? path : `./${path}`)});\n`
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
