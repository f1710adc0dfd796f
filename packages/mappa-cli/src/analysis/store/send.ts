import type { Definition } from '@mappa/core/definition/definition'
import { readLayers } from '@mappa/core/layers/source'
import { storeCommandProblem } from '@mappa/core/problems/catalogue/store-commands'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { resolveSettings } from '@mappa/core/resolve/resolve'
import type { StoreChange } from '@mappa/core/store/store'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import { toReport } from '@mappa/node/load/inspect'
import { envFiles } from '@mappa/node/sources/env-files'
import type { Relation, StoreComparison, StoreRow } from './compare.ts'
import { readFileText } from './local.ts'

export type { StoreComparison }

/** What is sent to a store. */
export interface SendPlan {
  readonly changes: readonly StoreChange[]
  /** What of it a person may see. */
  readonly rows: readonly StoreRow[]
  /** The names among them that are removed. */
  readonly removed: readonly string[]
}

/** What is to be sent. */
export interface SendQuestion {
  readonly root: string
  readonly definition: Definition
  readonly comparison: StoreComparison
  /** The settings to send, by their names; if none is named, all that are different there, or missing and in no file of the program. */
  readonly names: readonly string[]
  /** Names to remove. */
  readonly remove: readonly string[]
}

/**
 * Works out what sending the values of the files changes in a store.
 *
 * @throws {SettingsError} where a name is neither declared nor in the store, or a value here breaks a rule
 */
export function planSend({ root, definition, comparison, names, remove }: SendQuestion): SendPlan {
  const { stage, rows, store } = comparison
  mustBeKnown([...names, ...remove], rows, `${store}/${stage}`)
  const layers = readLayers(envFiles(root, definition).sources, stage)
  const resolution = resolveSettings(definition, { stage, layers, root })
  const sent = rows.filter(
    ({ name, relation, here }) =>
      here !== null && (names.length === 0 ? isDue(relation) : names.includes(name) && relation !== 'same'),
  )
  const wanted = new Set(sent.map(({ name }) => name))
  const faults = resolution.problems.filter(
    ({ name, severity }) => severity === 'error' && name !== null && wanted.has(name),
  )
  if (faults.length > 0) {
    const { problems: _, ...report } = toReport({ ...resolution, root, rootFrom: 'the store' })
    throw new SettingsError({ ...report, title: 'Nothing was sent', problems: faults })
  }
  const texts = new Map(resolution.settings.map((each) => [each.declaration.name, readFileText(each)]))
  const gone = rows.filter(({ name, there }) => remove.includes(name) && there !== null)
  return {
    changes: [
      ...sent.map(({ name }) => toChange(name, texts.get(name) ?? '')),
      ...gone.map(({ name }): StoreChange => ({ name, value: null })),
    ],
    rows: [...sent, ...gone],
    removed: gone.map(({ name }) => name),
  }
}

/** True for what is sent unless names are given: what goes along with the program need not be there as well. */
const isDue = (relation: Relation) => relation === 'missing' || relation === 'different'

/** A change with its value out of reach of loggers, but not of the JSON that is sent. */
function toChange(name: string, value: string): StoreChange {
  return Object.defineProperty({ name, value }, Symbol.for('nodejs.util.inspect.custom'), {
    value: () => ({ name }),
  })
}

function mustBeKnown(names: readonly string[], rows: readonly StoreRow[], store: string): void {
  const known = rows.map(({ name }) => name)
  const near = makeClosestMatch(known)
  const problems = names
    .filter((name) => !known.includes(name))
    .map(
      (name): Problem =>
        storeCommandProblem('store-name-unknown', {
          asked: JSON.stringify(name.slice(0, 80)),
          store,
          near: near(name),
        }),
    )
  if (problems.length > 0) throw new SettingsError({ title: 'Nothing was sent', stage: null, problems })
}
