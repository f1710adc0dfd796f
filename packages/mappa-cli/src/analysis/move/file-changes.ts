import type { Definition } from '@mappa/core/definition/definition'
import { listAncestors, type StageTree } from '@mappa/core/definition/stages'
import { exampleFile, writeExampleEntry } from '@mappa/core/derive/example'
import { MODULES_FILE, modulesFile } from '@mappa/core/derive/modules'
import { EnvDocument } from '@mappa/core/envfile/document'
import { EXAMPLE_FILE, isLocalFile } from '@mappa/core/layers/env-file-name'
import { listLayerPaths } from '@mappa/core/layers/order'
import { fs, path } from '@mappa/node/fs/builtin'
import { isRegularFile, readRegularText } from '@mappa/node/fs/regular-file'
import { SECRET_MODE } from '@mappa/node/fs/update-file'
import { findRepository, listIgnoredForAll } from '@mappa/node/git/git'
import { LOCAL_RULES, withIgnoreRules } from '@mappa/node/git/ignore-rules'
import type { FileChange } from '../../project/update-files.ts'
import type { MovedFinding } from './targets.ts'
import type { TemplateChange } from './templates.ts'

/**
 * The layer files of a stage that exist, lowest first.
 *
 * @param definition its stages, and the directories whose layer files lie below those of the project
 */
export function readStageDocuments(
  root: string,
  stage: string,
  definition: StageTree & Pick<Definition, 'layersFrom'>,
): Map<string, EnvDocument> {
  const paths = listLayerPaths(stage, definition.layersFrom, listAncestors(definition, stage))
  const found = paths.flatMap((file): [string, EnvDocument][] => {
    const whole = path.join(root, file)
    const isFile = isRegularFile(whole)
    return isFile ? [[file, EnvDocument.fromBytes(fs.readFileSync(whole), { file })]] : []
  })
  return new Map(found)
}

/** The layer files with the values in them. A value that is there already is not written again. */
export function planLayerChanges(
  root: string,
  moved: readonly Pick<MovedFinding, 'declaration' | 'layers'>[],
  documentsOf: (stage: string) => ReadonlyMap<string, EnvDocument>,
): FileChange[] {
  const after = new Map<string, EnvDocument>()
  const before = new Map<string, string | null>()
  for (const { declaration, layers } of moved) {
    for (const { stage, file, value } of layers) {
      const documents = documentsOf(stage)
      // A value that another one overrides is not there.
      const winner = [...documents.values()].reverse().find((each) => each.get(declaration.name) !== undefined)
      if (winner?.get(declaration.name)?.value === value) continue
      const document = after.get(file) ?? documents.get(file) ?? EnvDocument.from('', { file })
      after.set(file, document.set(declaration.name, value))
      before.set(file, readPresent(root, file, documents))
    }
  }
  return [...after].map(([file, document]) => ({
    file,
    before: before.get(file)!,
    after: String(document),
    ...(isLocalFile(file) ? { newMode: SECRET_MODE, ownerOnly: true } : {}),
  }))
}

/** The example file with the new settings: made again where it was true to the definition, else only added to. */
export function planExampleChange(root: string, old: Definition | null, definition: Definition): FileChange[] {
  const file = EXAMPLE_FILE
  const whole = path.join(root, file)
  const before = readRegularText(whole, file)
  if (before === null || (old !== null && before === exampleFile(old))) {
    return [{ file, before, after: exampleFile(definition) }]
  }
  const known = new Set(old?.settings.map(({ path: each }) => each))
  const fresh = definition.settings.filter((each) => !known.has(each.path))
  const eol = before.includes('\r\n') ? '\r\n' : '\n'
  const names = EnvDocument.from(before)
  const lines = fresh
    .filter(({ name }) => names.get(name) === undefined)
    .flatMap((each) => ['', ...writeExampleEntry(each, definition)])
  if (lines.length === 0) return []
  return [
    { file, before, after: `${before}${before === '' || before.endsWith('\n') ? '' : eol}${lines.join(eol)}${eol}` },
  ]
}

/** The ignore rules that are written before a secret is; `null` where git ignores the files already. */
export function ignoreChange(
  root: string,
  secretFiles: readonly string[],
  templates: readonly TemplateChange[],
): FileChange | null {
  const filled = templates.filter(({ hasSecrets }) => hasSecrets).map(({ file }) => file)
  const all = [...secretFiles, ...filled]
  if (all.length === 0 || findRepository(root) === null) return null
  const ignored = listIgnoredForAll(root, all)
  const missing = all.filter((each) => !ignored.has(each))
  if (missing.length === 0) return null
  const rules = missing.flatMap((each) => (filled.includes(each) ? [`/${each}`] : LOCAL_RULES))
  const file = '.gitignore'
  const before = readRegularText(path.join(root, file), file)
  return { file, before, after: withIgnoreRules(before ?? '', [...new Set(rules)]) }
}

/** What a file holds now; empty for one that is there and has no entries, `null` for one that is not there. */
function readPresent(root: string, file: string, documents: ReadonlyMap<string, EnvDocument>): string | null {
  if (documents.has(file)) return String(documents.get(file))
  return fs.existsSync(path.join(root, file)) ? '' : null
}

/** The types of what pages import, beside the definition. */
export function planModulesChange(root: string, definitionFile: string, definition: Definition): FileChange[] {
  const file = path.posix.join(path.posix.dirname(definitionFile), MODULES_FILE)
  const before = readRegularText(path.join(root, file), file)
  const after = modulesFile(definition, definitionFile)
  return before === after ? [] : [{ file, before, after }]
}
