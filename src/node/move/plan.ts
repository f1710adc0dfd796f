import type { Declaration, Definition } from '../../core/definition/definition.ts'
import { exampleEntry, exampleFile } from '../../core/derive/example.ts'
import { EnvDocument } from '../../core/envfile/document.ts'
import { definitionSource } from '../../core/init/draft.ts'
import { layerFiles } from '../../core/layers/order.ts'
import { documentLayer } from '../../core/layers/sources.ts'
import type { ReadingStyle, ReadSetting } from '../../core/move/reading.ts'
import { movingProblem } from '../../core/problems/of-commands.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import { resolveSettings } from '../../core/resolve/resolve.ts'
import type { Finding } from '../../core/survey/findings.ts'
import { fs, path } from '../builtin.ts'
import { loadDefinition } from '../definition/load.ts'
import { ignoredAmong, repositoryOf } from '../git/git.ts'
import { ensureIgnored, LOCAL_RULES, withIgnoreRules } from '../git/ignore-rules.ts'
import { readLayerFiles } from '../layer-files.ts'
import { readManifest } from '../manifest.ts'
import { sourceFiles } from '../survey/files.ts'
import { SECRET_MODE } from '../writing/update-file.ts'
import { type FileChange, updateFiles } from '../writing/update-files.ts'
import { addSetting } from './definition-source.ts'
import { leftoversOf } from './leftovers.ts'
import { settingsModule } from './settings-module.ts'
import { type MovePlace, moveSources, type RewrittenSource, rewriteSource } from './source-changes.ts'
import { layerOf, type Target, targetsOf, type Wishes } from './targets.ts'

/** The project that findings move in. */
export interface MoveProject {
  readonly root: string
  /** The definition, relative to the root; it need not exist yet. */
  readonly definitionFile: string
  /** `null` where there is none yet. */
  readonly definition: Definition | null
}

/** What is to be done with findings. */
export interface MoveOptions extends Wishes {
  /** The stage that the values in the code are for. */
  readonly stage: string
  readonly as: ReadingStyle
}

/** A finding that becomes a setting. */
export interface MovedFinding {
  readonly finding: Finding
  readonly declaration: Declaration
  /** The layer file that gets the value, relative to the root. */
  readonly file: string
  readonly places: readonly MovePlace[]
}

/** Everything that moving some findings does, before any of it is done. */
export interface MovePlan {
  readonly stage: string
  readonly moved: readonly MovedFinding[]
  /** Places that stay as they are, and why. */
  readonly left: readonly MovePlace[]
  /** In the order in which they are written: a value is in its file before it goes from the code. */
  readonly changes: readonly FileChange[]
  /** The files that secrets go into, which git has to ignore first. */
  readonly secretFiles: readonly string[]
  /** The other stages that have no value for a setting now, with its names. */
  readonly lacking: readonly { readonly stage: string; readonly names: readonly string[] }[]
  /** The settings after the change. */
  readonly definition: Definition
  readonly inRepository: boolean
  /** True where the program reads its settings through this package, which its `package.json` does not name. */
  readonly packageMissing: boolean
  readonly as: ReadingStyle
}

/**
 * Works out what moving findings does. Writes nothing.
 *
 * @throws {SettingsError} where a path that was asked for can't be used, or the definition can't be added to
 */
export async function planMove(
  project: MoveProject,
  findings: readonly Finding[],
  options: MoveOptions,
): Promise<MovePlan> {
  const { root, definitionFile } = project
  const wholeDefinition = path.join(root, definitionFile)
  const files = sourceFiles(root, [root]).filter((file) => file !== wholeDefinition)
  const documents = stageDocuments(root, options.stage)
  const targets = targetsOf(findings, project.definition, stageValues(project, options.stage, documents), options)
  const refused = new Map(
    targets.flatMap((each) => ('obstacle' in each ? [[each.finding, each.obstacle] as const] : [])),
  )
  const sources = moveSources(root, files, findings)
  const places = sources
    .flatMap((each) => each.places)
    .map((each) => ({ ...each, obstacle: refused.get(each.finding) ?? each.obstacle }))
  // A value moves only where something can be put in its place.
  const movable = targets.filter(({ finding }) =>
    places.some((each) => each.finding === finding && each.obstacle === null),
  )
  const added = movable.filter((each) => 'added' in each)
  const source = definitionText(wholeDefinition)
  const text = added.reduce((before, each) => withSetting(before, definitionFile, each), source.text)
  const definition =
    added.length === 0 && project.definition !== null
      ? project.definition
      : await loadDefinition(wholeDefinition, root, text)
  const moved = movable.map((target): MovedFinding => {
    const wanted = 'added' in target ? target.added.keys.join('.') : 'existing' in target ? target.existing.path : ''
    const declaration = definition.settings.find((each) => each.path === wanted)!
    const { finding } = target
    const own = places.filter((each) => each.finding === finding && each.obstacle === null)
    return { finding, declaration, file: layerOf(declaration.secret, options.stage), places: own }
  })
  const module = settingsModule(wholeDefinition, root, files)
  const readings = new Map(moved.map(({ finding, declaration }) => [finding, asRead(declaration, finding)]))
  const moduleType = readManifest(root).type === 'module' ? 'module' : 'commonjs'
  const rewritten = sources
    .filter(({ obstacle }) => obstacle === null)
    .map((each) => rewriteSource(root, each, readings, { as: options.as, module, moduleType }))
    .filter(({ before, after }) => before !== after)
  const layers = layerChanges(root, moved, documents)
  const needsModule = options.as === 'settings' && module.text !== null && rewritten.length > 0
  const changes = [
    ...layers,
    ...(added.length > 0 ? [{ file: definitionFile, before: source.exists ? source.text : null, after: text }] : []),
    ...(needsModule
      ? [{ file: path.relative(root, module.file).replaceAll('\\', '/'), before: null, after: module.text! }]
      : []),
    ...(added.length > 0 ? exampleChange(root, project.definition, definition, added.length) : []),
    ...rewritten.map(({ file, before, after }: RewrittenSource) => ({ file, before, after })),
  ]
  const secrets = moved.filter(({ declaration }) => declaration.secret).map(({ finding }) => finding)
  const left = places.filter(({ obstacle }) => obstacle !== null)
  const leftovers = leftoversOf(root, [...files, wholeDefinition], secrets, places)
  const secretFiles = [...new Set(moved.filter(({ declaration }) => declaration.secret).map(({ file }) => file))]
  const ignoring = ignoreChange(root, secretFiles)
  return {
    stage: options.stage,
    moved,
    left: [...left, ...leftovers],
    changes: ignoring === null ? changes : [ignoring, ...changes],
    secretFiles,
    lacking: stagesWithout(root, definition, moved, options.stage),
    definition,
    inRepository: repositoryOf(root) !== null,
    as: options.as,
    packageMissing:
      options.as === 'settings' && rewritten.length > 0 && readManifest(root).dependencies?.mappa === undefined,
  }
}

/**
 * Carries out a plan: all of it, or, where something is in the way, none.
 *
 * @throws {SettingsError} where a file has changed since, can't be written, or git tracks a file that a secret goes into
 */
export async function carryOut(root: string, { changes, secretFiles }: MovePlan): Promise<void> {
  for (const file of secretFiles) await ensureIgnored(root, file)
  await updateFiles(
    root,
    changes.filter(({ file }) => file !== '.gitignore'),
  )
}

/** The layer files of a stage that exist, lowest first. */
function stageDocuments(root: string, stage: string): Map<string, EnvDocument> {
  const found = layerFiles(stage).flatMap((file): [string, EnvDocument][] => {
    const whole = path.join(root, file)
    const isFile = fs.statSync(whole, { throwIfNoEntry: false })?.isFile() === true
    return isFile ? [[file, EnvDocument.fromBytes(fs.readFileSync(whole), { file })]] : []
  })
  return new Map(found)
}

/** What the settings of a stage are by its files alone: the environment of this process is nobody else's. */
function stageValues({ definition }: MoveProject, stage: string, documents: ReadonlyMap<string, EnvDocument>) {
  const layers = [...documents].map(([file, document]) => documentLayer(file, document))
  const settings = definition === null ? [] : resolveSettings(definition, { stage, layers }).settings
  const texts = new Map(
    settings.map(({ declaration, origin, text }) => [declaration.path, origin === null ? undefined : text]),
  )
  return { stage, documents, textOf: (each: string) => texts.get(each) }
}

function definitionText(whole: string): { text: string; exists: boolean } {
  const exists = fs.existsSync(whole)
  return { exists, text: exists ? fs.readFileSync(whole, 'utf8') : definitionSource([], null) }
}

function withSetting(text: string, file: string, target: Target & { added: unknown }): string {
  if (!('added' in target)) return text
  const { added } = target as Extract<Target, { added: unknown }>
  const after = addSetting(text, file, added)
  if (after !== null) return after
  const why = movingProblem('definition-not-editable', { file, path: added.keys.join('.'), kind: added.kind }, { file })
  throw new SettingsError({ title: 'Nothing was moved', stage: null, problems: [why] })
}

function asRead({ keys, name, secret, kind, options }: Declaration, { value }: Finding): ReadSetting {
  const converted = kind.convert(value, options)
  const type = 'value' in converted && typeof converted.value === 'number' ? 'number' : 'text'
  return { keys, name, secret, type }
}

/** The layer files with the values in them. A value that is there already is not written again. */
function layerChanges(
  root: string,
  moved: readonly MovedFinding[],
  documents: ReadonlyMap<string, EnvDocument>,
): FileChange[] {
  const after = new Map<string, EnvDocument>()
  for (const { finding, declaration, file } of moved) {
    const present = [...documents.values()].some((each) => each.get(declaration.name)?.value === finding.value)
    if (present) continue
    const document = after.get(file) ?? documents.get(file) ?? EnvDocument.from('', { file })
    after.set(file, document.set(declaration.name, finding.value))
  }
  return [...after].map(([file, document]) => ({
    file,
    before: documents.has(file) ? String(documents.get(file)) : fs.existsSync(path.join(root, file)) ? '' : null,
    after: String(document),
    ...(file.endsWith('.local') ? { newMode: SECRET_MODE } : {}),
  }))
}

/** The example file with the new settings: made anew where it was true to the definition, else only added to. */
function exampleChange(root: string, old: Definition | null, definition: Definition, count: number): FileChange[] {
  const file = '.env.example'
  const whole = path.join(root, file)
  const before = fs.existsSync(whole) ? fs.readFileSync(whole, 'utf8') : null
  if (before === null || (old !== null && before === exampleFile(old))) {
    return [{ file, before, after: exampleFile(definition) }]
  }
  const known = new Set(old?.settings.map(({ path: each }) => each))
  const fresh = definition.settings.filter((each) => !known.has(each.path)).slice(0, count)
  const eol = before.includes('\r\n') ? '\r\n' : '\n'
  const names = EnvDocument.from(before)
  const lines = fresh.filter(({ name }) => names.get(name) === undefined).flatMap((each) => ['', ...exampleEntry(each)])
  if (lines.length === 0) return []
  return [
    { file, before, after: `${before}${before === '' || before.endsWith('\n') ? '' : eol}${lines.join(eol)}${eol}` },
  ]
}

/** The ignore rules that are written before a secret is; `null` where git ignores the files already. */
function ignoreChange(root: string, secretFiles: readonly string[]): FileChange | null {
  if (secretFiles.length === 0 || repositoryOf(root) === null) return null
  const ignored = ignoredAmong(root, secretFiles)
  if (secretFiles.every((file) => ignored.has(file))) return null
  const file = '.gitignore'
  const whole = path.join(root, file)
  const before = fs.existsSync(whole) ? fs.readFileSync(whole, 'utf8') : null
  return { file, before, after: withIgnoreRules(before ?? '', LOCAL_RULES) }
}

/** Other stages in which a moved setting has no value. */
function stagesWithout(root: string, definition: Definition, moved: readonly MovedFinding[], stage: string) {
  const paths = new Set(moved.map(({ declaration }) => declaration.path))
  return definition.stages
    .filter((each) => each !== stage)
    .map((each) => {
      const { layers } = readLayerFiles(root, each, definition.stages)
      const { settings } = resolveSettings(definition, { stage: each, layers })
      const names = settings
        .filter(({ declaration, text }) => paths.has(declaration.path) && text === undefined && !declaration.optional)
        .map(({ declaration }) => declaration.name)
      return { stage: each, names }
    })
    .filter(({ names }) => names.length > 0)
}
