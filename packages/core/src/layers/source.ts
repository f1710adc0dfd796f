import type { Layer } from './layer.ts'
import type { LayerKind } from './order.ts'

/** Where values come from. It gives one layer for each stage. */
export interface Source {
  readonly id: string
  readonly kind: LayerKind
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
