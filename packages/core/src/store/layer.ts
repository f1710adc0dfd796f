import { type Layer, layerValue } from '../layers/layer.ts'
import { STORE_LAYER } from '../layers/order.ts'
import { storeProblem } from '../problems/catalogue/stores.ts'
import type { Problem } from '../problems/problem.ts'
import { escapeInvisible } from '../text/escape-invisible.ts'
import type { StoreState } from './store.ts'

/** More keys than these are not named. */
const MOST_NAMED = 5

/**
 * What a store holds for a stage, as a layer. Values are taken as they are: `$` is just a character.
 *
 * @param described which store it is, for people
 * @param problems what was wrong while it was read
 */
export function storeLayer(described: string, state: StoreState, problems: readonly Problem[] = []): Layer {
  const { stage, entries, oddKeys = [] } = state
  const title = `${described}/${stage}`
  return {
    id: STORE_LAYER,
    kind: 'store',
    title,
    state: 'read',
    problems: [...problems, ...listStateProblems(title, state), ...reportOddKeys(title, oddKeys)],
    get(name) {
      const entry = entries.get(name)
      if (entry === undefined) return undefined
      const at = entry.revision === null ? '' : ` @${entry.revision}`
      const origin = { layer: STORE_LAYER, file: null, line: null, column: null, entry: `${title}/${name}${at}` }
      return layerValue(origin, entry.value ?? '', { broken: entry.value === null })
    },
    names: () => [...entries.keys()],
  }
}

function listStateProblems(title: string, { entries }: StoreState): readonly Problem[] {
  return [...entries].flatMap(([name, { value, broken }]) => {
    if (value !== null) return []
    return [
      storeProblem(broken === true ? 'store-value-no-text' : 'store-value-kept', { name, store: title }, { name }),
    ]
  })
}

function reportOddKeys(title: string, keys: readonly string[]): readonly Problem[] {
  if (keys.length === 0) return []
  const named = keys.slice(0, MOST_NAMED).map((each) => JSON.stringify(escapeInvisible(each.slice(0, 80))))
  const more = keys.length > MOST_NAMED ? [`${keys.length - MOST_NAMED} more`] : []
  return [storeProblem('store-key-odd', { store: title, keys: [...named, ...more] })]
}

/** The layer of a store that could not be read. */
export function unreadStoreLayer(described: string, stage: string, why: readonly Problem[]): Layer {
  return {
    id: STORE_LAYER,
    kind: 'store',
    title: `${described}/${stage}`,
    state: 'unreadable',
    problems: why,
    get: () => undefined,
    names: () => [],
  }
}
