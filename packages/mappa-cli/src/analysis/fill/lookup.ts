import type { Definition } from '@mappa/core/definition/definition'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import type { Inspection } from '@mappa/node/load/inspect'

/** What stands for a name in one stage. */
export type LookupResult =
  | { readonly state: 'value'; readonly text: string; readonly secret: boolean; readonly isJson: boolean }
  | { readonly state: 'unset' | 'invalid' }
  | { readonly state: 'unknown'; readonly near: string | null }

/** What a template is filled from. */
export interface Lookup {
  readonly stage: string
  /** The names that were asked for, and whose values come from the environment of this process. */
  readonly environmental: ReadonlySet<string>
  readonly find: (name: string) => LookupResult
}

/** Stands for the name of the stage, in templates as in the environment of a program. */
const STAGE_NAME = 'MAPPA_STAGE'

/** The values of a stage, by variable name. */
export function makeLookup({ stage, settings }: Inspection): Lookup {
  const byName = new Map(settings.map((each) => [each.declaration.name, each]))
  const closest = makeClosestMatch([...byName.keys()])
  const environmental = new Set<string>()
  return {
    stage,
    environmental,
    find(name) {
      const setting = byName.get(name)
      // What mappa run puts into the environment under the same name.
      if (setting === undefined && name === STAGE_NAME)
        return { state: 'value', text: stage, secret: false, isJson: false }
      if (setting === undefined) return { state: 'unknown', near: closest(name) }
      const { declaration, text, valid, masked, origin } = setting
      if (text === undefined) return { state: valid || origin === null ? 'unset' : 'invalid' }
      if (origin?.layer === 'environment') environmental.add(name)
      return valid
        ? { state: 'value', text, secret: masked, isJson: declaration.kind.name === 'json' }
        : { state: 'invalid' }
    },
  }
}

/** Tells the names that a definition declares. */
export function makeDeclaredCheck({ settings }: Definition): (name: string) => boolean {
  const names = new Set([...settings.map(({ name }) => name), STAGE_NAME])
  return (name) => names.has(name)
}
