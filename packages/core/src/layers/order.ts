/** What a layer is. */
export type LayerKind = 'defaults' | 'file' | 'directory' | 'store' | 'environment' | 'flags'

/** The one order of layers, lowest first; a higher one wins. Env files among themselves are in the order of {@link listLayerFiles}. */
export const LAYER_ORDER: readonly LayerKind[] = ['defaults', 'file', 'directory', 'store', 'environment', 'flags']

/** Puts what belongs to layers into their order. */
export function sortLayers<T extends { readonly kind: LayerKind }>(parts: readonly T[]): readonly T[] {
  return LAYER_ORDER.flatMap((kind) => parts.filter((each) => each.kind === kind))
}

/**
 * The names of the four layer files of a stage, lowest first.
 *
 * @param stage the name of a stage that the definition knows
 */
export function listLayerFiles(stage: string): readonly [string, string, string, string] {
  return ['.env', '.env.local', `.env.${stage}`, `.env.${stage}.local`]
}

/**
 * The paths of all layer files of a stage, lowest first: those of the directories that packages share lie below those of the project.
 *
 * @param stage the name of a stage that the definition knows
 * @param layersFrom the directories, relative to that of the project, lowest first
 * @param ancestors the stages that it is like, the nearest first; their files lie between those of all stages and its own
 * @returns paths relative to the directory of the project
 * @example
 * ```ts
 * listLayerPaths('production', ['../..'])[0] // '../../.env'
 * listLayerPaths('production', []).at(-1) // '.env.production.local'
 * ```
 */
export function listLayerPaths(
  stage: string,
  layersFrom: readonly string[],
  ancestors: readonly string[] = [],
): readonly string[] {
  const [shared, sharedLocal, ...ofStage] = listLayerFiles(stage)
  const ofAncestors = ancestors.toReversed().flatMap((each) => listLayerFiles(each).slice(2))
  const own = [shared, sharedLocal, ...ofAncestors, ...ofStage]
  return [...layersFrom.flatMap((directory) => own.map((file) => `${directory}/${file}`)), ...own]
}

/** True for a layer, by its id, that is a file of one of these stages alone. */
export function isFileOfStages(layer: string, stages: readonly string[]): boolean {
  const name = layer.slice(layer.lastIndexOf('/') + 1)
  return stages.some((stage) => listLayerFiles(stage).slice(2).includes(name))
}

const TITLES: Partial<Record<string, string>> = {
  defaults: 'defaults',
  environment: 'the process environment',
  flags: 'the command line',
}

/** What a person calls a layer, by its id. */
export function describeLayer(layer: string): string {
  return TITLES[layer] ?? layer
}

/** The id of the layer of a store. */
export const STORE_LAYER = 'store'
