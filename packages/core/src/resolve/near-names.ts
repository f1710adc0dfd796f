import type { Declaration } from '../definition/definition.ts'
import type { Layer, Origin } from '../layers/layer.ts'
import { describeOriginLabel } from '../layers/layer.ts'
import { describeLayer } from '../layers/order.ts'
import { type Problem, problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { makeClosestMatch } from '../text/closest-match.ts'

/** A name in a layer that is no setting but nearly is. */
export interface NearName {
  readonly name: string
  readonly origin: Origin
  /** The setting that was probably meant. */
  readonly meant: Declaration
}

/** So many pairs of names are compared for one layer; a file of a hundred thousand names would take minutes otherwise. */
const MAX_COMPARISONS = 2_000_000

/**
 * Finds the names in layers that are nearly those of settings: in files every name; in the process environment, which holds
 * much that belongs to others, those that begin with the prefix of the definition; and in files that packages share, those that are
 * nearly settings without a value, since others may well be settings of another package.
 *
 * @param nearest gives the nearest name of a setting
 * @param prefix what all variable names of the definition begin with; empty where there is none
 * @param reporter is told how many names were not compared, where there are too many
 */
export function findNearNames(
  layers: readonly Layer[],
  byName: ReadonlyMap<string, Declaration>,
  nearest: (name: string) => string | null,
  prefix: string,
  reporter: Reporter,
): readonly NearName[] {
  const limit = Math.ceil(MAX_COMPARISONS / Math.max(1, byName.size))
  return layers.flatMap((layer) => {
    const unknown = findNames(layer, prefix).filter((name) => !byName.has(name))
    const isMeant = (meant: string) => !isSharedFile(layer) || layers.every((each) => each.get(meant) === undefined)
    const skipped = Math.max(0, unknown.length - limit)
    if (skipped > 0) {
      const place = { file: layer.state === 'read' ? layer.title : null }
      reporter.report(problem('names-not-compared', { count: skipped, layer: layer.title }, place))
    }
    return unknown.slice(0, limit).flatMap((name): NearName[] => {
      const meant = nearest(name)
      if (meant === null || !isMeant(meant)) return []
      const { origin, nameColumn } = layer.get(name)!
      return [{ name, origin: { ...origin, column: nameColumn }, meant: byName.get(meant)! }]
    })
  })
}

function findNames(layer: Layer, prefix: string): readonly string[] {
  const own = layer.names()
  if (isSharedFile(layer)) return layer.sharedNames?.() ?? []
  if (prefix === '' || layer.sharedNames === undefined) return own
  return [...own, ...layer.sharedNames().filter((name) => name.startsWith(prefix))]
}

function isSharedFile({ kind, sharedNames }: Layer): boolean {
  return kind === 'file' && sharedNames !== undefined
}

/** A name in a layer that probably is a misspelling of a missing one, and where it stands. */
export function describeNear(name: string, near: readonly NearName[]): string | null {
  const found = near.find((each) => each.meant.name === name)
  return found === undefined
    ? null
    : `${found.name} in ${describeOriginLabel(found.origin, describeLayer(found.origin.layer))}`
}

/**
 * A variable of the process environment, or of a file that packages share, that was probably meant for a setting that is missing: one that is nearly called so, or
 * whose name holds the whole of it, as `DOME_KEY_FILE` and `FERN_DOME_KEY` do.
 */
export function findNearShared(
  name: string,
  layers: readonly Layer[],
  isDeclared: (name: string) => boolean,
): string | null {
  for (const layer of layers) {
    const names = layer.sharedNames?.().filter((each) => !isDeclared(each)) ?? []
    const upper = name.toUpperCase()
    const found =
      makeClosestMatch(names)(name) ??
      names.find((each) => each.toUpperCase().startsWith(`${upper}_`) || each.toUpperCase().endsWith(`_${upper}`))
    if (found !== undefined) return `${found} in ${layer.title}`
  }
  return null
}

/** The notice about a name that is nearly one of a setting. */
export function reportNearName({ name, origin, meant }: NearName): Problem {
  const { file, line, column } = origin
  const layer = file === null ? describeLayer(origin.layer) : null
  return problem('name-near', { name, meant: meant.name }, { file, layer, line, column, name, setting: meant.path })
}
