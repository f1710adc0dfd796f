import type { Definition } from '../../core/definition/definition.ts'
import { checkOptionNames } from '../../core/problems/option-names.ts'
import { storeLayer } from '../../core/store/layer.ts'
import type { Store, StoreState } from '../../core/store/store.ts'
import { keep, mustBeStore, readStoreLayer, storeSource, TIMEOUT, unreadProblem } from '../store/index.ts'
import { inspectStage, mustBeDefinition, type SourceOptions, stageOfOptions } from './load.ts'
import { type OnChange, WATCH_OPTIONS, type WatchedSettings, Watching, type WatchStoreOptions } from './watching.ts'

/** How often a store is read that does not tell of changes, in milliseconds. */
const INTERVAL = 30_000

/** `watchSettings` with a store. */
export async function watchStored<D extends Definition>(
  definition: D,
  onChange: OnChange<D>,
  options: WatchStoreOptions,
): Promise<WatchedSettings<D>> {
  checkOptionNames(options, [...WATCH_OPTIONS, 'store', 'timeout', 'lastGood'], 'watchSettings')
  mustBeDefinition(definition, 'watchSettings')
  mustBeStore(options, 'watchSettings')
  const { onProblems, store, timeout = TIMEOUT, lastGood, ...sources } = options
  const limits = { timeout, ...(lastGood === undefined ? {} : { lastGood }) }
  const chosen = stageOfOptions(definition, sources)
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

interface Told {
  readonly onState: (state: StoreState) => void
  readonly onError: (error: unknown) => void
}

/** A store that fails is told of again after so long, in milliseconds. */
const TOLD_AGAIN = 60_000

/** Watches a store, or reads it again and again. */
function watchStore(store: Store, from: StoreState, { onState, onError }: Told): () => void {
  let told = Number.NEGATIVE_INFINITY
  const watcher = {
    onState,
    onError(error: unknown) {
      if (performance.now() - told < TOLD_AGAIN) return
      told = performance.now()
      onError(error)
    },
  }
  if (store.watch !== undefined) return store.watch(from, watcher)
  const timer = setInterval(() => void store.read(from.stage).then(onState, watcher.onError), INTERVAL)
  return () => clearInterval(timer)
}
