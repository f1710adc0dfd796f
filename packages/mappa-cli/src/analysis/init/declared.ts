import type { Definition } from '@mappa/core/definition/definition'
import { DEFAULT_STAGES } from '@mappa/core/definition/stages'
import { isSettingsError } from '@mappa/core/problems/settings-error'
import { requireDefinition } from '@mappa/node/project/definition/find'
import { loadDefinition } from '../../project/definition/load.ts'
import type { WorkspacePackage } from '../../project/workspaces.ts'

/** What the packages of a repository declare that have a definition. */
export interface Declared {
  /** The directories of those that declare a variable, by its name. */
  readonly byName: ReadonlyMap<string, readonly string[]>
  /** The stages that most of them have; those of every new project, if there are none. */
  readonly stages: readonly string[]
  /** The directories of those with other stages than `stages`. */
  readonly otherStages: readonly string[]
  /** The directories of those whose definition can't be loaded, so that nothing is known of them. */
  readonly broken: readonly string[]
}

/** Loads the definitions that a repository has already: what is new must fit in with them. */
export async function collectDeclared(packages: readonly WorkspacePackage[]): Promise<Declared> {
  const byName = new Map<string, string[]>()
  const stages = new Map<string, string[]>()
  const broken: string[] = []
  for (const { root, directory } of packages) {
    const definition = await loadOrNull(root)
    if (definition === null) broken.push(directory)
    else {
      for (const { name } of definition.settings) byName.set(name, [...(byName.get(name) ?? []), directory])
      const key = definition.stages.join()
      stages.set(key, [...(stages.get(key) ?? []), directory])
    }
  }
  // The stages of most of them; the packages of one repository are nearly always deployed together.
  const [most] = [...stages].sort(([, a], [, b]) => b.length - a.length)
  return {
    byName,
    stages: most?.[0].split(',') ?? DEFAULT_STAGES,
    otherStages: [...stages].flatMap(([key, directories]) => (key === most?.[0] ? [] : directories)),
    broken,
  }
}

/** `null` where something is wrong with it, which `mappa check` says. */
async function loadOrNull(root: string): Promise<Definition | null> {
  try {
    return await loadDefinition(requireDefinition(root), root)
  } catch (error) {
    if (isSettingsError(error)) return null
    throw error
  }
}
