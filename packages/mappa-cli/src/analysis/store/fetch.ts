import type { Definition } from '@mappa/core/definition/definition'
import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { listLayerFiles } from '@mappa/core/layers/order'
import type { StoreState } from '@mappa/core/store/store'
import { ensureIgnored } from '@mappa/node/git/ignore-rules'
import { type FileChange, updateFiles } from '../../project/update-files.ts'
import { planLayerChanges, readStageDocuments } from '../move/file-changes.ts'
import { listFaults } from '../set/write-setting.ts'
import type { StoreComparison, StoreRow } from './compare.ts'
import { readFileSettings } from './local.ts'

/** What fetching values changes in the files of a project. */
export interface FetchPlan {
  readonly rows: readonly (StoreRow & { readonly file: string })[]
  /** The names whose values the store keeps to itself, and those whose values break a rule of the stage. */
  readonly kept: readonly string[]
  readonly invalid: readonly string[]
  readonly changes: readonly FileChange[]
}

/** Works out what taking the values of a store into the files of a stage changes. */
export function planFetch(
  root: string,
  definition: Definition,
  { stage, rows }: StoreComparison,
  { entries }: StoreState,
  names: readonly string[],
): FetchPlan {
  const differing = rows.filter(
    ({ name, relation }) =>
      (relation === 'there' || relation === 'different') && (names.length === 0 || names.includes(name)),
  )
  const settings = new Map(readFileSettings(root, definition, stage).map((each) => [each.declaration.name, each]))
  const readTextThere = (name: string) => entries.get(name)?.value ?? null
  const isGood = (name: string) =>
    listFaults(settings.get(name)!.declaration, readTextThere(name)!, { stage, local: false }).length === 0
  const told = differing.filter(({ name }) => readTextThere(name) !== null)
  const readable = told.filter(({ name }) => isGood(name))
  const moved = readable.map((row) => {
    const { declaration, origin } = settings.get(row.name)!
    const [, , ofStage, local] = listLayerFiles(stage)
    // A value that is in the file of this machine would win over one below it.
    const file = declaration.secret || origin?.layer === local ? local : ofStage
    return { row, declaration, layers: [{ stage, file, value: readTextThere(row.name)! }] }
  })
  return {
    rows: moved.map(({ row, layers }) => ({ ...row, file: layers[0]!.file })),
    kept: differing.filter(({ name }) => readTextThere(name) === null).map(({ name }) => name),
    invalid: told.filter(({ name }) => !isGood(name)).map(({ name }) => name),
    changes: planLayerChanges(root, moved, (each) => readStageDocuments(root, each, definition)),
  }
}

/**
 * Writes fetched values: all of them, or none.
 *
 * @throws {SettingsError} where a file has changed since, can't be written, or git tracks a file that a secret goes into
 */
export async function applyFetch(root: string, { changes }: FetchPlan): Promise<void> {
  for (const { file } of changes) if (isLocalFile(file)) await ensureIgnored(root, file)
  await updateFiles(root, changes)
}
