/**
 * The one order of layers, lowest to highest:
 * defaults · `.env` · `.env.local` · `.env.<stage>` · `.env.<stage>.local` · the process environment.
 */

/** The lowest layer: the defaults of the definition. */
export const DEFAULTS = 'defaults'

/** The highest layer of today: the variables the process was started with. */
export const ENVIRONMENT = 'environment'

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
  return layer === ENVIRONMENT ? 'the process environment' : layer
}
