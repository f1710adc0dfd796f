import { SettingsError } from '../../../mappa/src/core/problems/settings-error.ts'
import { storeLayer, unreadStoreLayer } from '../../../mappa/src/core/store/layer.ts'
import type { Store, StoreState } from '../../../mappa/src/core/store/store.ts'
import { type Inspection, inspectStage } from '../../../mappa/src/node/load/load.ts'
import type { ChosenStage } from '../../../mappa/src/node/project/stage.ts'
import { readStore, storeSource, TIMEOUT, Unread } from '../../../mappa/src/node/store/index.ts'
import { openStore } from '../../../mappa/src/store/configured.ts'
import type { Project } from './project.ts'

/** The option by which a command is told of a store: a file, or true for the one that is found. */
export type StoreChoice = string | true | undefined

/**
 * Opens the store of a project.
 *
 * @throws {SettingsError} where there is none, or it is wrong
 */
export function storeOf(project: Project, choice: StoreChoice): Promise<Store> {
  return openStore(typeof choice === 'string' ? choice : undefined, project.root)
}

/**
 * What a store holds for a stage.
 *
 * @throws {SettingsError} where it can't be read
 */
export async function stateOf(store: Store, stage: string): Promise<StoreState> {
  try {
    return await readStore(store, stage, { timeout: TIMEOUT })
  } catch (error) {
    if (!(error instanceof Unread)) throw error
    throw new SettingsError({ title: 'The store', stage, problems: [error.problem] })
  }
}

/** Everything about one stage, with what a store holds for it. */
export async function inspectWithStore(project: Project, stage: ChosenStage, store: Store): Promise<Inspection> {
  const { root, rootFrom, definition } = project
  const layer = await readStore(store, stage.stage, { timeout: TIMEOUT }).then(
    (state) => storeLayer(store.describe(), state),
    (error: unknown) => {
      if (error instanceof Unread) return unreadStoreLayer(store.describe(), stage.stage, [error.problem])
      throw error
    },
  )
  return { ...inspectStage(definition, stage, { root }, [storeSource(layer)]), rootFrom }
}
