import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { type EndingStyle, withEnding } from '../move/import-paths.ts'
import type { DraftSetting } from './draft.ts'
import { groupSettings, type TakenPart } from './draft-source.ts'

/** What a package has in common with others. */
export interface PackageShare {
  /** The variables that are shared and that this package uses. */
  readonly names: ReadonlySet<string>
  /** All shared settings. */
  readonly drafts: readonly DraftSetting[]
  /** The absolute path of the module with the shared part; `null` where no package can import one. */
  readonly module: string | null
  /** The directory with the shared layer files, relative to the package; `null` for the one in that directory. */
  readonly layersFrom: string | null
  /** How relative paths end in the package. */
  readonly ending: EndingStyle
}

/**
 * What a definition takes of the shared part: whole groups where the package uses everything in them.
 *
 * @param definition the absolute path of the definition
 */
export function findTakenPart(share: PackageShare, definition: string): TakenPart {
  const { names, drafts, module, layersFrom, ending } = share
  const taken = new Map<string, readonly string[]>()
  const whole = new Set<string>()
  if (module === null) return { specifier: '', layersFrom, taken, whole }
  for (const [group, members] of groupSettings(drafts)) {
    const used = [...members].filter(([, { name }]) => names.has(name)).map(([key]) => key)
    if (used.length > 0) taken.set(group, used)
    if (used.length === members.size) whole.add(group)
  }
  const relative = toRelativePath(path.dirname(definition), module)
  const style = /\.m?js$/.test(module) ? 'source' : ending
  return {
    specifier: withEnding(relative.startsWith('.') ? relative : `./${relative}`, style),
    layersFrom,
    taken,
    whole,
  }
}
