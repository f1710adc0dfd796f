import type { Definition } from '@mappa/core/definition/definition'
import { sortLayers } from '@mappa/core/layers/order'
import type { Source } from '@mappa/core/layers/source'
import type { Problem } from '@mappa/core/problems/problem'
import { directorySource } from './directory.ts'
import { envFiles } from './env-files.ts'

/** All that a project takes values from, beside the defaults of its definition, the process environment and flags. */
export interface ProjectSources {
  /** The sources, lowest first. */
  readonly sources: readonly Source[]
  /** Problems with what is beside them, such as files with mistaken names. */
  readonly problems: (stage: string) => readonly Problem[]
}

/**
 * The sources of a project, in the order of layers.
 *
 * @param root the directory of the project
 * @param directory a directory with one file for each variable; `null` for none
 * @param more what else there is, such as a store
 */
export function projectSources(
  definition: Definition,
  root: string,
  directory: string | null,
  more: readonly Source[] = [],
): ProjectSources {
  const files = envFiles(root, definition)
  const mounted = directory === null ? [] : [directorySource(root, directory, listNames(definition))]
  return {
    sources: sortLayers([...files.sources, ...mounted, ...more]),
    problems: (stage) => files.problems(stage, definition.stages),
  }
}

/** Every name under which a setting of the definition is read. */
export function listNames({ settings, elsewhere }: Definition): string[] {
  return [...settings, ...elsewhere].flatMap(({ name, formerly }) => [name, ...formerly])
}
