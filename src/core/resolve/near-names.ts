import type { Declaration } from '../definition/definition.ts'
import type { Layer, Origin } from '../layers/layer.ts'

/** A name in a layer file that is no setting but nearly is. */
export interface NearName {
  readonly name: string
  readonly origin: Origin
  /** The setting that was probably meant. */
  readonly meant: Declaration
}

/**
 * Finds the names in layer files that are nearly those of settings.
 *
 * @param nearest gives the nearest name of a setting
 */
export function nearNames(
  layers: readonly Layer[],
  byName: ReadonlyMap<string, Declaration>,
  nearest: (name: string) => string | null,
): readonly NearName[] {
  const found: NearName[] = []
  for (const layer of layers) {
    for (const name of layer.names()) {
      const meant = byName.has(name) ? null : nearest(name)
      if (meant === null) continue
      const { origin, nameColumn } = layer.get(name)!
      found.push({ name, origin: { ...origin, column: nameColumn }, meant: byName.get(meant)! })
    }
  }
  return found
}
