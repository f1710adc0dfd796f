import { HiddenValue, type Layer, type LayerValue } from './layer.ts'

/** What one layer says about a name, and which layer that is. */
export interface Candidate extends LayerValue {
  readonly layer: Layer
  /** Place of the layer in the order; a higher one wins. */
  readonly rank: number
}

/** Layers on top of each other. */
export interface MergedLayers {
  /** The layers, lowest first. */
  readonly layers: readonly Layer[]
  /**
   * The highest layer that sets a name.
   *
   * @param below looks only at layers of a lower rank than this, if given
   */
  readonly winner: (name: string, below?: number) => Candidate | undefined
  /** Every layer that sets a name, the winner first. */
  readonly candidates: (name: string) => readonly Candidate[]
}

/**
 * Lays layers on top of each other.
 *
 * @param layers the layers, lowest first
 */
export function mergeLayers(layers: readonly Layer[]): MergedLayers {
  const toCandidate = (name: string, rank: number): Candidate | undefined => {
    const layer = layers[rank]!
    const said = layer.get(name)
    if (said === undefined) return undefined
    return new RankedValue(said, layer, rank)
  }
  const findWinner = (name: string, below = layers.length): Candidate | undefined => {
    for (let rank = below - 1; rank >= 0; rank--) {
      const found = toCandidate(name, rank)
      if (found !== undefined) return found
    }
    return undefined
  }
  return {
    layers,
    winner: findWinner,
    candidates(name) {
      const found: Candidate[] = []
      for (let next = findWinner(name); next !== undefined; next = findWinner(name, next.rank)) found.push(next)
      return found
    },
  }
}

/**
 * Everything that layers say about a name, the highest first: also the lines of a file that a later one with the same name covers.
 *
 * @param layers the layers, lowest first
 */
export function listSaid(layers: readonly Layer[], name: string): readonly Candidate[] {
  return layers
    .flatMap((layer, rank) => {
      const said = layer.get(name)
      const all = said === undefined ? [] : [said, ...(layer.listRepeated?.(name) ?? [])]
      return all.toReversed().map((each) => new RankedValue(each, layer, rank))
    })
    .toReversed()
}

class RankedValue extends HiddenValue implements Candidate {
  readonly layer: Layer
  readonly rank: number

  constructor(said: LayerValue, layer: Layer, rank: number) {
    super(said.origin, said.value, said)
    this.layer = layer
    this.rank = rank
  }
}
