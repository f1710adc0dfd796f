import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { MODULES_FILE, modulesFile } from '@mappa/core/derive/modules'
import type { EnvDocument } from '@mappa/core/envfile/document'
import { documentLayer } from '@mappa/core/layers/sources'
import { resolveSettings } from '@mappa/core/resolve/resolve'
import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Skipped } from '@mappa/node/fs/read-file'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { findRepository, listTracked } from '@mappa/node/git/git'
import { ensureIgnored } from '@mappa/node/git/ignore-rules'
import { envFiles } from '@mappa/node/sources/env-files'
import { readManifest } from '../../project/manifest.ts'
import { type FileChange, updateFiles } from '../../project/update-files.ts'
import { sourceFiles } from '../survey/files.ts'
import { type Finding, findValue } from '../survey/findings.ts'
import type { AccessStyle, ReadSetting } from './access-expression.ts'
import { browserFiles } from './browser-files.ts'
import { changeDefinition, getPath, NOTHING_DEFINED } from './definition-change.ts'
import { exampleChange, ignoreChange, layerChanges, stageDocuments } from './file-changes.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import { remainingPlaces } from './remaining.ts'
import { type SettingsModule, settingsModule } from './settings-module.ts'
import { type MovePlace, type MoveSource, moveSources, rewriteSource } from './source-changes.ts'
import { startCommands } from './starts.ts'
import { chooseLayer, type MovedFinding, type MovedValue, type MoveOverrides, planTargets } from './targets.ts'
import { planTemplates, type TemplateChange } from './templates.ts'
import { pluginChange } from './vite-config.ts'

/** The project that findings move in. */
export interface MoveProject {
  readonly root: string
  /** The definition, relative to the root; it need not exist yet. */
  readonly definitionFile: string
  /** `null` where there is none yet. */
  readonly definition: Definition | null
}

/** What is to be done with findings. */
export interface MoveOptions extends MoveOverrides {
  /** The stage that the values in the code are for. */
  readonly stage: string
  readonly as: AccessStyle
  /** The files and directories that findings were asked for in, by absolute paths; empty for the whole project. */
  readonly asked: readonly string[]
  /** True to make templates of files that can't read variables. */
  readonly templates: boolean
  /** True to take away the outputs of notebooks that show what moves. */
  readonly clearOutputs: boolean
}

/** Everything that moving some findings does, before any of it is done. */
export interface MovePlan {
  readonly stage: string
  readonly moved: readonly MovedFinding[]
  /** Places that stay as they are, and why. */
  readonly left: readonly MovePlace[]
  /** Files that were not searched for secrets that stay. */
  readonly notSearched: readonly Skipped[]
  /** In the order in which they are written: a value is in its file before it goes from the code. */
  readonly changes: readonly FileChange[]
  /** The files that secrets go into, which git has to ignore first. */
  readonly secretFiles: readonly string[]
  /** The other stages that have no value for a setting now, with its names. */
  readonly lacking: readonly { readonly stage: string; readonly names: readonly string[] }[]
  /** The settings after the change. */
  readonly definition: Definition
  readonly inRepository: boolean
  /** The files among the changes that git tracks, and so can put back. */
  readonly tracked: ReadonlySet<string>
  /** True where the program reads its settings through this package, which its `package.json` does not name. */
  readonly packageMissing: boolean
  /** The configuration of Vite to which the plugin, which pages now need, is to be added manually; `null` where there is none. */
  readonly pluginMissing: string | null
  readonly as: AccessStyle
  /** The commands that start the changed programs which are no JavaScript. */
  readonly starts: readonly string[]
  /** The templates that files become. */
  readonly templates: readonly TemplateChange[]
  /** True where JavaScript was changed. */
  readonly readsProcess: boolean
}

/**
 * Works out what moving findings does. Writes nothing.
 *
 * @param refusal says why a place stays as it is, where that is known already
 * @throws {SettingsError} where a path that was asked for can't be used, or the definition can't be added to
 */
export async function draftPlan(
  project: MoveProject,
  findings: readonly Finding[],
  options: MoveOptions,
  refusal: (place: MovePlace) => Obstacle | null,
): Promise<MovePlan> {
  const { root, definitionFile } = project
  const wholeDefinition = path.join(root, definitionFile)
  const files = sourceFiles(root, [root]).files.filter((file) => file !== wholeDefinition)
  const documentsOf = memoize((stage: string) => stageDocuments(root, stage, project.definition?.layersFrom ?? []))
  const allStages = (project.definition ?? NOTHING_DEFINED).stages
  const stages = [options.stage, ...allStages.filter((each) => each !== options.stage)]
  const module = settingsModule(wholeDefinition, root, files)
  const found = moveSources(root, files, findings, options)
  const sources = options.as === 'settings' ? found.map((each) => withReachable(each, module)) : found
  const ofPages = new Set(
    sources.filter(({ ofPage }) => ofPage).flatMap((each) => each.places.filter(({ obstacle }) => obstacle === null)),
  )
  const isPublic = (finding: Finding) => [...ofPages].some((each) => each.finding === finding)
  const values = stages.map((stage) => stageValues(project, stage, documentsOf(stage)))
  const targets = planTargets(findings, project.definition, values, options, isPublic)
  const refused = new Map(
    targets.flatMap((each) => ('obstacle' in each ? [[each.finding, each.obstacle] as const] : [])),
  )
  const existing = new Map(
    targets.flatMap((each) => ('existing' in each ? [[each.finding, each.existing] as const] : [])),
  )
  const findObstacle = (place: MovePlace): Obstacle | null => {
    const own = existing.get(place.finding)
    const isHidden = ofPages.has(place) && own !== undefined && !own.public
    return (
      refusal(place) ??
      refused.get(place.finding) ??
      (isHidden ? makeObstacle('not-public', { name: own.name }) : place.obstacle)
    )
  }
  const checked = sources.map((each) => ({
    ...each,
    places: each.places.map((place): MovePlace => {
      const name = existing.get(place.finding)?.name
      return { ...place, obstacle: findObstacle(place), ...(name === undefined ? {} : { name }) }
    }),
  }))
  const places = checked.flatMap((each) => each.places)
  // A value moves only where something can be put in its place.
  const movable = targets.filter(({ finding }) =>
    places.some((each) => each.finding === finding && each.obstacle === null),
  )
  const { definition, change } = await changeDefinition(project, movable)
  const moved = movable.map((target): MovedFinding => {
    const wanted = getPath(target)
    const declaration = definition.settings.find((each) => each.path === wanted)!
    const { finding } = target
    const own = places.filter((each) => each.finding === finding && each.obstacle === null)
    return { finding, declaration, layers: planLayers(finding, declaration, options.stage), places: own }
  })
  const readings = new Map(moved.map(({ finding, declaration }) => [finding, asRead(declaration, finding)]))
  const moduleType = readManifest(root).type === 'module' ? 'module' : 'commonjs'
  const rewritten = checked
    .filter(({ obstacle }) => obstacle === null)
    .map((each) => rewriteSource(root, each, readings, { as: options.as, module, moduleType }))
    .filter(({ before, after }) => before !== after)
  const inJavaScript = rewritten.filter(({ file }) => checked.find((each) => each.file === file)?.changed === null)
  const pages = new Set(sources.filter(({ ofPage }) => ofPage).map(({ file }) => file))
  const onPages = rewritten.filter(({ file }) => pages.has(file))
  const pageTexts = [...browserFiles(root)].map((each) => readRegularText(each) ?? '')
  const plugin = onPages.length === 0 ? null : pluginChange(root, pageTexts, rewritten)
  const needsModule = options.as === 'settings' && module.text !== null && inJavaScript.length > onPages.length
  const changes = [
    ...layerChanges(root, moved, documentsOf),
    ...(change === null ? [] : [change]),
    ...(needsModule ? [{ file: toRelativePath(root, module.file), before: null, after: module.text! }] : []),
    ...(change === null ? [] : exampleChange(root, project.definition, definition)),
    ...(onPages.length === 0 ? [] : modulesChange(root, definitionFile, definition)),
    ...(plugin?.change == null ? [] : [plugin.change]),
    ...rewritten.filter(({ file }) => file !== plugin?.change?.file),
  ]
  const secrets = moved.filter(({ declaration }) => declaration.secret).map(({ finding }) => finding)
  const left = places.filter(({ obstacle }) => obstacle !== null)
  const leftovers = remainingPlaces(
    root,
    [...files, ...(fs.existsSync(wholeDefinition) ? [wholeDefinition] : [])],
    secrets,
    places,
  )
  const secretFiles = [
    ...new Set(moved.flatMap(({ declaration, layers }) => (declaration.secret ? layers.map(({ file }) => file) : []))),
  ]
  const templates = planTemplates(checked, rewritten, moved)
  const ignoring = ignoreChange(root, secretFiles, templates)
  return {
    stage: options.stage,
    moved,
    left: [...left, ...leftovers.places],
    notSearched: leftovers.skipped,
    changes: ignoring === null ? changes : [ignoring, ...changes],
    secretFiles,
    lacking: findStagesLacking(root, definition, moved, options.stage),
    definition,
    inRepository: findRepository(root) !== null,
    tracked: listTracked(
      root,
      [...changes, ...templates].map(({ file }) => file),
    ),
    as: options.as,
    templates,
    starts: startCommands(checked, rewritten, moved),
    readsProcess: inJavaScript.length > 0,
    pluginMissing: plugin?.change === null ? plugin.file : null,
    packageMissing:
      options.as === 'settings' &&
      inJavaScript.length > 0 &&
      readManifest(root).dependencies?.['mappa-settings'] === undefined,
  }
}

/**
 * Carries out a plan: all of it, or, where something is in the way, none.
 *
 * @throws {SettingsError} where a file has changed since, can't be written, or git tracks a file that a secret goes into
 */
export async function applyPlan(root: string, { changes, secretFiles, templates }: MovePlan): Promise<void> {
  // What is filled with secrets is ignored although git may track it still.
  const ignoring = changes.filter(({ file }) => file === '.gitignore')
  if (templates.some(({ hasSecrets }) => hasSecrets)) await updateFiles(root, ignoring)
  for (const file of secretFiles) await ensureIgnored(root, file)
  await updateFiles(
    root,
    changes.filter(({ file }) => file !== '.gitignore'),
  )
}

/** The types of what pages import, beside the definition. */
function modulesChange(root: string, definitionFile: string, definition: Definition): FileChange[] {
  const file = path.posix.join(path.posix.dirname(definitionFile), MODULES_FILE)
  const before = readRegularText(path.join(root, file), file)
  const after = modulesFile(definition, definitionFile)
  return before === after ? [] : [{ file, before, after }]
}

/** A source whose places stay where Node would have to load TypeScript for it, which it does not do for tools of every age. */
function withReachable(source: MoveSource, { file }: SettingsModule): MoveSource {
  const isReadAsItIs = /\.config\.[cm]?js$/.test(source.file)
  if (source.obstacle !== null || !isReadAsItIs || !/\.[cm]?ts$/.test(file)) return source
  const obstacle = makeObstacle('config-typescript')
  return { ...source, obstacle, places: source.places.map((each) => ({ ...each, obstacle })) }
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

/** The values that layer files get: that of the stage, or those of all stages where each has its own. */
function planLayers(
  finding: Finding,
  { secret, default: inDefinition }: Declaration,
  stage: string,
): readonly MovedValue[] {
  if (inDefinition !== undefined && finding.stageValues === null) return []
  const stages = finding.stageValues === null ? [stage] : [...finding.stageValues.keys()]
  return stages.map((each) => ({ stage: each, file: chooseLayer(secret, each), value: findValue(finding, each) }))
}

/** A function that works out each result once. */
function memoize<Result>(make: (key: string) => Result): (key: string) => Result {
  const known = new Map<string, Result>()
  return (key) => {
    const result = known.get(key) ?? make(key)
    known.set(key, result)
    return result
  }
}

function asRead({ keys, name, secret, kind, options }: Declaration, { value }: Finding): ReadSetting {
  const converted = kind.convert(value, options)
  const type = 'value' in converted && typeof converted.value === 'number' ? 'number' : 'text'
  return { keys, name, secret, type }
}

/** Other stages in which a moved setting has no value. */
function findStagesLacking(root: string, definition: Definition, moved: readonly MovedFinding[], stage: string) {
  const single = moved.filter(({ finding }) => finding.stageValues === null)
  const paths = new Set(single.map(({ declaration }) => declaration.path))
  return definition.stages
    .filter((each) => each !== stage)
    .map((each) => {
      const layers = envFiles(root, definition.layersFrom).sources.map((source) => source.read(each))
      const { settings } = resolveSettings(definition, { stage: each, layers })
      const names = settings
        .filter(({ declaration, text }) => paths.has(declaration.path) && text === undefined && !declaration.optional)
        .map(({ declaration }) => declaration.name)
      return { stage: each, names }
    })
    .filter(({ names }) => names.length > 0)
}
