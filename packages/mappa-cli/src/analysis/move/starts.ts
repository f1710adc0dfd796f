import type { Rewriting } from '@mappa/source/rewriting'
import type { MoveSource, RewrittenSource } from './source-changes.ts'
import type { MovedFinding } from './targets.ts'

/** Files that programs often begin with. */
const BEGINNINGS = /(?:^|\/)(?:main|app|index|server|manage|run|__main__|start)\.\w+$/

/**
 * How the programs are started that were changed: one command for each language, of the file that looks most like the beginning.
 *
 * @param rewritten the files that were changed, with their texts before
 */
export function startCommands(
  sources: readonly MoveSource[],
  rewritten: readonly RewrittenSource[],
  moved: readonly MovedFinding[],
): readonly string[] {
  const starts = new Map<Rewriting, { readonly start: string; readonly rank: number }>()
  for (const { file, before } of rewritten) {
    const rewriting = sources.find((each) => each.file === file)?.driver.rewriting ?? undefined
    const own = moved.filter(({ places }) => places.some((each) => each.file === file))
    const names = own.map(({ declaration }) => declaration.name)
    const start = rewriting?.start(file, names) ?? null
    if (rewriting === undefined || start === null) continue
    const rank = getRank(file, before ?? '')
    const known = starts.get(rewriting)
    if (known === undefined || known.rank < rank) starts.set(rewriting, { start, rank })
  }
  return [...starts.values()].map(({ start }) => start)
}

function getRank(file: string, text: string): number {
  const isMain = /__name__ == .__main__.|\bfunc main\(|\bstatic void main\(/.test(text)
  const isClass = /^\s*(?:final |abstract )?class \w/m.test(text)
  return (isMain ? 2 : 0) + (BEGINNINGS.test(file) ? 1 : 0) - (isClass ? 1 : 0)
}
