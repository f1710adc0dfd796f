import type { Layer } from '@mappa/core/layers/layer'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { storeLayer, unreadStoreLayer } from '@mappa/core/store/layer'
import type { Store, StoreState } from '@mappa/core/store/store'
import type { Inspection } from '@mappa/node/load/inspect'
import type { ChosenStage } from '@mappa/node/project/stage'
import { readStore, storeSource, TIMEOUT, Unread, unreadProblem, watchStore } from '@mappa/node/sources/store'
import { openStore } from '@mappa/node/stores/configured'
import type { Project } from './project.ts'

/** The options by which a command is told of a store. */
export interface StoreChoice {
  /** True to take the values of the store as a layer. */
  readonly store?: boolean
  /** The file that says which store; found if left out. */
  readonly storeFile?: string
}

/**
 * Opens the store of a project.
 *
 * @throws {SettingsError} where there is none, or it is wrong
 */
export function openProjectStore(project: Project, { storeFile }: StoreChoice): Promise<Store> {
  return openStore(storeFile, project.root)
}

/**
 * What a store holds for a stage.
 *
 * @throws {SettingsError} where it can't be read
 */
export async function getState(store: Store, stage: string): Promise<StoreState> {
  try {
    return await readStore(store, stage, { timeout: TIMEOUT })
  } catch (error) {
    if (!(error instanceof Unread)) throw error
    throw new SettingsError({ title: 'The store', stage, problems: [error.problem] })
  }
}

/** Stages of a project with the layer of a store in them, if that was asked for. */
export class StageInspector {
  readonly #store: Store | null
  readonly #stages: readonly ChosenStage[]
  readonly #layers = new Map<string, Layer>()
  readonly #states = new Map<string, StoreState>()

  private constructor(store: Store | null, stages: readonly ChosenStage[]) {
    this.#store = store
    this.#stages = stages
  }

  /**
   * Reads the store for some stages, if that was asked for.
   *
   * @throws {SettingsError} where there is none, or it is wrong; one that can't be read is a problem of each stage
   */
  static async open(project: Project, choice: StoreChoice, stages: readonly ChosenStage[]): Promise<StageInspector> {
    const isAsked = choice.store === true || choice.storeFile !== undefined
    const inspector = new StageInspector(isAsked ? await openProjectStore(project, choice) : null, stages)
    await Promise.all(stages.map(({ stage }) => inspector.#read(stage)))
    return inspector
  }

  async #read(stage: string): Promise<void> {
    const store = this.#store
    if (store === null) return
    try {
      this.#take(store, await readStore(store, stage, { timeout: TIMEOUT }))
    } catch (error) {
      if (!(error instanceof Unread)) throw error
      this.#layers.set(stage, unreadStoreLayer(store.describe(), stage, [error.problem]))
    }
  }

  #take(store: Store, state: StoreState): void {
    this.#states.set(state.stage, state)
    this.#layers.set(state.stage, storeLayer(store.describe(), state))
  }

  /** Everything about one stage: values, origins, problems. */
  inspect(project: Project, stage: ChosenStage): Inspection {
    const layer = this.#layers.get(stage.stage)
    return project.inspect(stage, this.#stages, layer === undefined ? [] : [storeSource(layer)])
  }

  /**
   * Tells of changes of the store.
   *
   * @param changed is called when the stage can be inspected anew
   * @param failed is told what keeps the store from being watched
   * @returns a function that stops watching
   */
  watch(stage: string, changed: () => void, failed: (problem: Problem) => void): () => void {
    const store = this.#store
    const state = this.#states.get(stage)
    if (store === null || state === undefined) return () => {}
    return watchStore(store, state, {
      onState: (now) => {
        this.#take(store, now)
        changed()
      },
      onError: (error) => failed(unreadProblem(store, error)),
    })
  }

  close(): void {
    this.#store?.close?.()
  }
}
