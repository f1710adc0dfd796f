import type { Definition } from '@mappa/core/definition/definition'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import { storeLayer } from '@mappa/core/store/layer'
import {
  keep,
  mustBeStore,
  readStoreLayer,
  storeSource,
  TIMEOUT,
  unreadProblem,
  watchStore,
} from '../sources/store/index.ts'
import { chooseOptionStage, inspectStage, mustBeDefinition, type SourceOptions } from './inspect.ts'
import { type OnChange, WATCH_OPTIONS, type WatchedSettings, Watching, type WatchStoreOptions } from './watching.ts'

/** `watchSettings` with a store. */
export async function watchStored(
  definition: Definition,
  onChange: OnChange<Definition>,
  options: WatchStoreOptions,
): Promise<WatchedSettings<Definition>> {
  checkOptionNames(options, [...WATCH_OPTIONS, 'store', 'timeout', 'lastGood'], 'watchSettings')
  mustBeDefinition(definition, 'watchSettings')
  mustBeStore(options, 'watchSettings')
  const { onProblems, store, timeout = TIMEOUT, lastGood, ...sources } = options
  const limits = { timeout, ...(lastGood === undefined ? {} : { lastGood }) }
  const chosen = chooseOptionStage(definition, sources)
  let reading = await readStoreLayer(store, chosen.stage, limits)
  const inspect = (own: SourceOptions) => inspectStage(definition, chosen, own, [storeSource(reading.layer)])
  const first = inspect(sources)
  const watching = new Watching(definition, onChange, onProblems, first, ({ root }) => inspect({ ...sources, root }))
  keep(store, reading, lastGood)
  const { isKept, layer } = reading
  if (isKept) watching.tell({ stage: chosen.stage, problems: layer.problems })
  const stopStore = watchStore(store, reading.state!, {
    onState(state) {
      reading = { layer: storeLayer(store.describe(), state), state, isKept: false }
      if (watching.look()) keep(store, reading, lastGood)
    },
    onError(error) {
      const problems = [unreadProblem(store, error)]
      watching.tell({
        stage: chosen.stage,
        problems,
        title: 'The store is not watched at the moment, and the last good values stay',
      })
    },
  })
  return watching.watchFiles(sources, stopStore)
}
