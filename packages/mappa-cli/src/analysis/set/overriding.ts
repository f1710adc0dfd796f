import type { Definition } from '@mappa/core/definition/definition'
import { describeOriginLabel, type Origin } from '@mappa/core/layers/layer'
import { readLayers } from '@mappa/core/layers/source'
import { leadsOutside } from '@mappa/node/fs/places'
import { envFiles } from '@mappa/node/sources/env-files'

/** How a value that was written stands to those of the same name in other layer files. */
export interface Overriding {
  /** Where values stand that still win over it, in one stage or another: `.env.local:3`. */
  readonly overriddenBy: readonly string[]
  /** True where the environment of this process has the name as well, which wins over all files. */
  readonly inEnvironment: boolean
  /** Where values of files stand that packages share, and that no longer hold for this one. */
  readonly overrides: readonly string[]
}

/**
 * Compares a value with the layer files above and below it. What is overridden without a word looks as if nothing had happened.
 *
 * @param file the layer file that was written, relative to the root
 * @param stages the stages that the file is for
 */
export function findOverriding(
  { root, definition }: { readonly root: string; readonly definition: Definition },
  name: string,
  file: string,
  stages: readonly string[],
): Overriding {
  const { sources } = envFiles(root, definition)
  const above = new Set<string>()
  const below = new Set<string>()
  for (const stage of stages) {
    const layers = readLayers(sources, stage)
    const own = layers.findIndex(({ id }) => id === file)
    layers.forEach((layer, index) => {
      const entry = layer.get(name)
      if (own < 0 || index === own || entry === undefined || entry.value === '') return
      if (index > own) above.add(getLabel(entry.origin))
      else if (layer.sharedNames !== undefined && !leadsOutside(file)) below.add(getLabel(entry.origin))
    })
  }
  return { overriddenBy: [...above], inEnvironment: Boolean(process.env[name]), overrides: [...below] }
}

const getLabel = (origin: Origin) => describeOriginLabel(origin, origin.layer)
