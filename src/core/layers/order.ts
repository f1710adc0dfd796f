/**
 * The one order of layers, lowest to highest:
 * defaults · `.env` · `.env.local` · `.env.<stage>` · `.env.<stage>.local` · a directory with one file for each variable, where
 * configured · the process environment · flags of the command line.
 */

/** The lowest layer: the defaults of the definition. */
export const DEFAULTS = 'defaults'

/** A directory with one file for each variable. */
export const DIRECTORY = 'directory'

/** The variables the process was started with. */
export const ENVIRONMENT = 'environment'

/** The highest layer: flags of the command line. */
export const FLAGS = 'flags'

/**
 * The names of the four layer files of a stage, lowest first.
 *
 * @param stage the name of a stage that the definition knows
 */
export function layerFiles(stage: string): readonly [string, string, string, string] {
  return ['.env', '.env.local', `.env.${stage}`, `.env.${stage}.local`]
}

/** What a person calls a layer. */
export function layerTitle(layer: string): string {
  if (layer === DEFAULTS) return 'defaults'
  if (layer === FLAGS) return 'the command line'
  return layer === ENVIRONMENT ? 'the process environment' : layer
}
