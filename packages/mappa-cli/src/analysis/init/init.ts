import { DEFAULT_STAGES } from '@mappa/core/definition/stages'
import { exampleFile } from '@mappa/core/derive/example'
import { EXAMPLE_FILE } from '@mappa/core/layers/env-file-name'
import { listLayerFiles } from '@mappa/core/layers/order'
import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { updateFile } from '@mappa/node/fs/update-file'
import { writeDerived } from '@mappa/node/fs/write-derived'
import { listIgnored } from '@mappa/node/git/git'
import { addIgnoreRules, ensureIgnored } from '@mappa/node/git/ignore-rules'
import { loadDefinition } from '../../project/definition/load.ts'
import { updateFiles } from '../../project/update-files.ts'
import { findOpenCopies, type OpenCopy } from '../guard/open-names.ts'
import { chooseSettingsModule } from '../move/settings-module.ts'
import { planPluginChange } from '../move/vite-config.ts'
import { listSourceFiles } from '../survey/files.ts'
import { writeDefinition, writeDefinitionJson } from './draft-source.ts'
import { type OpenSecret, openSecrets, relocate } from './relocate.ts'
import { findTakenPart, type PackageShare } from './share.ts'
import type { ProjectSummary } from './summary.ts'
import { listDrafts, listVariables } from './variables.ts'

/** What was done, in the order in which it was. */
export interface SetUp {
  /** Files that were written, relative to the root. */
  readonly written: readonly string[]
  /** What was left as it was, relative to the root. */
  readonly kept: readonly string[]
  /** How many settings the definition has. */
  readonly settings: number
  /** Secrets that stood in files which git does not ignore and are in files of this machine now. */
  readonly moved: readonly OpenSecret[]
  /** Those that still stand there. */
  readonly open: readonly OpenSecret[]
  /** Files with secrets that no stage reads, and that git has or would take along. */
  readonly copies: readonly OpenCopy[]
  /** Env files with errors, which may hold more of them. */
  readonly unread: readonly string[]
  /** The module to import settings from, relative to the root; `null` if none was written. */
  readonly module: string | null
  /** The configuration of Vite without the plugin, where it has to be added by hand; relative to the root. */
  readonly withoutPlugin: string | null
}

/** True where secrets are left that somebody has to look at. */
export function isUnfinished({ open, copies, unread }: SetUp): boolean {
  return open.length + copies.length + unread.length > 0
}

/**
 * Sets a project up: a definition with what was found, a file for each stage, the example file, and ignore rules. What is
 * there already stays as it is; a second time changes nothing.
 *
 * @param stages the stages of the project
 * @param mayMove is asked whether secrets may move out of files that git does not ignore
 * @param share what it has in common with other packages; nothing if left out
 * @throws {SettingsError} where an existing definition is wrong, or a file can't be written
 */
export async function setUpProject(
  root: string,
  summary: ProjectSummary,
  stages: readonly string[],
  mayMove: (secrets: readonly OpenSecret[]) => Promise<boolean>,
  share: PackageShare | null = null,
): Promise<SetUp> {
  const written: string[] = []
  const kept: string[] = []
  const write = async (file: string, text: string) => {
    const { changed } = await updateFile(path.join(root, file), (before) => before ?? text)
    ;(changed ? written : kept).push(file)
  }
  const file = summary.definition ?? summary.place
  let module: string | null = null
  if (summary.definition === null) {
    const draft = draftDefinition(root, summary, stages, share)
    // What can't be loaded would keep every later command from its work.
    await loadDefinition(path.join(root, file), root, draft)
    await write(file, draft)
    module = await writeModules(root, file, summary, write)
  } else kept.push(file)
  const definition = await loadDefinition(path.join(root, file), root)
  const plugin = summary.usesVite ? planPluginChange(root, { keeps: summary.reads.some(({ built }) => built) }) : null
  if (plugin?.change != null) {
    await updateFiles(root, [plugin.change])
    written.push(plugin.file)
  }
  const withoutPlugin = plugin?.change === null ? plugin.file : null
  for (const stage of definition.stages) {
    await write(
      listLayerFiles(stage)[2],
      `# Values of ${stage}. Committed, so without secrets: those go into .env.${stage}.local.\n`,
    )
  }
  if (await ignoreLocalFiles(root, definition.stages, summary.inRepository)) written.push('.gitignore')
  const { found, unread } = openSecrets(root, summary.envFiles, definition)
  const movable = found.filter(({ contradicted }) => !contradicted)
  const moved = movable.length > 0 && (await mayMove(movable)) ? movable : []
  await relocate(root, moved)
  const example = writeDerived(path.join(root, EXAMPLE_FILE), exampleFile(definition))
  ;(example.written ? written : kept).push(EXAMPLE_FILE)
  const open = found.filter((each) => !moved.includes(each))
  const copies = findOpenCopies(root, definition)
  return { written, kept, settings: definition.settings.length, moved, open, copies, unread, module, withoutPlugin }
}

type Write = (file: string, text: string) => Promise<void>

/** Writes what loads the settings, as the framework needs it; returns what code imports, `null` if nothing new is there for it. */
async function writeModules(
  root: string,
  definition: string,
  { framework, usesVite, reads }: ProjectSummary,
  write: Write,
): Promise<string | null> {
  for (const { file, text } of framework?.files ?? []) {
    fs.mkdirSync(path.dirname(path.join(root, file)), { recursive: true })
    await write(file, text)
  }
  if (framework !== null) return framework.module
  // What a page gets, the plugin hands it.
  const isPage = usesVite && reads.every(({ built }) => built)
  return isPage || definition.endsWith('.json') ? null : writeModule(root, definition, write)
}

/** Writes the module that loads the settings; `null` if the project has one. */
async function writeModule(root: string, definition: string, write: Write): Promise<string | null> {
  const { file, text } = chooseSettingsModule(path.join(root, definition), root, listSourceFiles(root, [root]).files)
  if (text === null) return null
  const shown = toRelativePath(root, file)
  await write(shown, text)
  return shown
}

/** A definition of every variable that has a value in a file or is read by the code. */
function draftDefinition(
  root: string,
  summary: ProjectSummary,
  stages: readonly string[],
  share: PackageShare | null,
): string {
  const all = listDrafts(listVariables(root, summary, stages))
  const named = stages.join() === DEFAULT_STAGES.join() ? null : stages
  if (summary.place.endsWith('.json')) return writeDefinitionJson(all, named, share?.layersFrom ?? null)
  const own = all.filter(({ name }) => share?.names.has(name) !== true)
  return writeDefinition(own, named, share === null ? null : findTakenPart(share, path.join(root, summary.place)))
}

/** Has git ignore the files of one machine, and not the example; true where a rule was added. */
export async function ignoreLocalFiles(
  root: string,
  stages: readonly string[],
  inRepository: boolean,
): Promise<boolean> {
  if (!inRepository) return false
  let added = false
  for (const file of ['.env.local', ...stages.map((stage) => listLayerFiles(stage)[3])]) {
    if ((await ensureIgnored(root, file)) === 'ignored now') added = true
  }
  // Nothing of it is for git, and no survey looks there.
  const modules = 'node_modules/mappa-settings'
  if (fs.existsSync(path.join(root, 'package.json')) && !listIgnored(root, [modules]).has(modules)) {
    // Where git tracks it, a rule that is there has no effect.
    if (await addIgnoreRules(root, ['node_modules/'])) added = true
  }
  // A rule so wide that it hides the example as well would keep it from everybody else.
  if (listIgnored(root, [EXAMPLE_FILE]).has(EXAMPLE_FILE)) {
    if (await addIgnoreRules(root, ['!.env.example'])) added = true
  }
  return added
}
