import type { Definition } from '@mappa/core/definition/definition'
import { chooseOptionStage, type Inspection, inspectStage } from '../load/inspect.ts'
import { readStoreLayer, storeSource, TIMEOUT } from '../sources/store/index.ts'
import { openStore } from './configured.ts'

/**
 * Finds out everything about the settings of the stage of this process, with the values of a store.
 *
 * @param root the directory of the project
 * @param file the file that says which store
 * @throws {SettingsError} where that file is wrong; a store that can't be read is among the problems
 */
export async function inspectWithStore(definition: Definition, root: string, file: string): Promise<Inspection> {
  const store = await openStore(file, root)
  try {
    const stage = chooseOptionStage(definition, { root })
    const { layer } = await readStoreLayer(store, stage.stage, { timeout: TIMEOUT })
    return inspectStage(definition, stage, { root }, [storeSource(layer)])
  } finally {
    store.close?.()
  }
}
