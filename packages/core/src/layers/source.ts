import type { Layer } from './layer.ts'
import type { LayerKind } from './order.ts'

/** Where values come from. It gives one layer for each stage. */
export interface Source {
  readonly id: string
  readonly kind: LayerKind
  /** True for the stages that have the source; all of them if left out. */
  readonly isFor?: (stage: string) => boolean
  /** Reads what it has for a stage. What is wrong is among the problems of the layer. */
  readonly read: (stage: string) => Layer
  /** Absolute paths of the files whose change changes the layer, or of the directory that holds them; none if left out. */
  readonly paths?: (stage: string) => readonly string[]
  /**
   * Tells of changes, for a source that is no file.
   *
   * @returns a function that stops watching
   */
  readonly watch?: (stage: string, changed: () => void) => () => void
}

/** The sources that a stage has, lowest first. */
export function listSources(sources: readonly Source[], stage: string): readonly Source[] {
  return sources.filter(({ isFor }) => isFor?.(stage) ?? true)
}

/** The layers of a stage, lowest first. */
export function readLayers(sources: readonly Source[], stage: string): readonly Layer[] {
  return listSources(sources, stage).map((each) => each.read(stage))
}
