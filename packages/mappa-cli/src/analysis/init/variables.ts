import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import { listLayerFiles } from '@mappa/core/layers/order'
import type { Template } from '@mappa/core/template/template'
import { fs, path } from '@mappa/node/fs/builtin'
import { mustBeRegular } from '@mappa/node/fs/regular-file'
import { type DraftSetting, draftSetting, type Variable } from './draft.ts'
import type { ProjectSummary } from './summary.ts'

/** The variables of a project: those with values in its env files, and those that its code reads. */
export interface Variables {
  readonly byName: ReadonlyMap<string, Variable>
  /** The names that the values of each refer to. */
  readonly references: ReadonlyMap<string, readonly string[]>
  /** What stands in each layer file, by names; a value with references in a form to compare. */
  readonly files: ReadonlyMap<string, ReadonlyMap<string, FileValue>>
}

/** A value in a layer file. */
export interface FileValue {
  readonly text: string
  readonly hasReferences: boolean
}

/** Collects the variables of a project. */
export function listVariables(root: string, summary: ProjectSummary, stages: readonly string[]): Variables {
  const { envFiles, reads } = summary
  const values = new Map<string, string[]>(reads.map(({ name }) => [name, []]))
  const references = new Map<string, string[]>()
  const files = new Map<string, Map<string, FileValue>>()
  const layers = new Set(stages.flatMap((stage) => listLayerFiles(stage)))
  // A copy, or a file of a stage that there is not, gives values, but makes no setting that nothing reads.
  const isLayer = (file: string) => (layers.has(file) ? 0 : 1)
  for (const file of [...envFiles].sort((a, b) => isLayer(a) - isLayer(b))) {
    const own = new Map<string, FileValue>()
    if (layers.has(file)) files.set(file, own)
    const entries = findEntries(root, file).filter(({ name }) => layers.has(file) || values.has(name))
    for (const { name, value } of entries) {
      own.set(name, toFileValue(value))
      values.set(name, [...(values.get(name) ?? []), typeof value === 'string' ? value : '${}'])
      references.set(name, [...(references.get(name) ?? []), ...listReferencedNames(value)])
    }
  }
  const isEverywhere = (name: string) =>
    stages.every((stage) => listLayerFiles(stage).some((file) => files.get(file)?.has(name) === true))
  return { byName: describeDraft(values, summary, isEverywhere), references, files }
}

function findEntries(root: string, file: string): ParsedEnvFile['entries'] {
  mustBeRegular(path.join(root, file), file)
  return ParsedEnvFile.readBytes(fs.readFileSync(path.join(root, file)), file).entries
}

function toFileValue(value: string | Template): FileValue {
  return typeof value === 'string'
    ? { text: value, hasReferences: false }
    : { text: JSON.stringify(value), hasReferences: true }
}

function describeDraft(
  values: ReadonlyMap<string, readonly string[]>,
  { reads, fallbacks, secrets }: ProjectSummary,
  isEverywhere: (name: string) => boolean,
): ReadonlyMap<string, Variable> {
  const byName = new Map(reads.map((each) => [each.name, each]))
  return new Map(
    [...values].map(([name, all]): [string, Variable] => {
      const { needed = false, built = false, takenAs = null } = byName.get(name) ?? {}
      const isSecret = secrets.has(name)
      const isDoneWithout = byName.has(name) && !needed && !isEverywhere(name)
      const fallback = fallbacks.get(name) ?? null
      return [name, { values: all, isDoneWithout, needed, built, takenAs, isSecret, fallback }]
    }),
  )
}

function listReferencedNames(value: string | Template): string[] {
  if (typeof value === 'string') return []
  return value.flatMap((each) => (typeof each === 'string' ? [] : each.name))
}

/** Drafts a setting for each variable, sorted by name. */
export function listDrafts({ byName, references }: Pick<Variables, 'byName' | 'references'>): readonly DraftSetting[] {
  const drafts = [...byName].sort(([a], [b]) => (a < b ? -1 : 1)).map(([name, each]) => draftSetting(name, each))
  return withReferences(references, drafts)
}

/** A value that refers to a secret is one. */
function withReferences(
  references: ReadonlyMap<string, readonly string[]>,
  drafts: readonly DraftSetting[],
): readonly DraftSetting[] {
  const secrets = new Set(drafts.filter(({ secret }) => secret).map(({ name }) => name))
  for (let before = -1; before < secrets.size; ) {
    before = secrets.size
    for (const [name, named] of references) if (named.some((each) => secrets.has(each))) secrets.add(name)
  }
  // A secret has no default.
  return drafts.map((each) => (secrets.has(each.name) ? { ...each, secret: true, public: false, default: null } : each))
}
