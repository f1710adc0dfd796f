import type { Declaration, Definition } from '@mappa/core/definition/definition'
import type { EnvDocument } from '@mappa/core/envfile/document'
import { readLayers } from '@mappa/core/layers/source'
import { documentLayer } from '@mappa/core/layers/sources'
import { resolveSettings } from '@mappa/core/resolve/resolve'
import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { findRepository, listTracked } from '@mappa/node/git/git'
import { envFiles } from '@mappa/node/sources/env-files'
import { listPackages, readManifest } from '../../project/manifest.ts'
import type { FileChange } from '../../project/update-files.ts'
import { listSourceFiles } from '../survey/files.ts'
import { type Finding, findValue } from '../survey/findings.ts'
import type { ReadSetting } from './access-expression.ts'
import { findBrowserFiles } from './browser-files.ts'
import { getPath, NOTHING_DEFINED } from './definition-change.ts'
import {
  ignoreChange,
  planExampleChange,
  planLayerChanges,
  planModulesChange,
  readStageDocuments,
} from './file-changes.ts'
import type { MovePlan } from './move-plan.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import type { MoveOptions, MoveProject } from './options.ts'
import { findRemainingPlaces } from './remaining.ts'
import { chooseSettingsModule, type SettingsModule } from './settings-module.ts'
import { type MovePlace, type MoveSource, moveSources, type RewrittenSource, rewriteSource } from './source-changes.ts'
import { startCommands } from './starts.ts'
import { chooseLayer, type MovedFinding, type MovedValue, planTargets, type Target } from './targets.ts'
import { planTemplates } from './templates.ts'
import { planPluginChange, readsBuiltVariable } from './vite-config.ts'

/** What the steps of a plan work on. */
interface ReadSources {
  /** Files of the project, by absolute paths. */
  readonly files: readonly string[]
  readonly wholeDefinition: string
  readonly module: SettingsModule
  readonly sources: readonly MoveSource[]
  /** The layer files of a stage. */
  readonly documentsOf: (stage: string) => ReadonlyMap<string, EnvDocument>
}

export function readSources(project: MoveProject, findings: readonly Finding[], options: MoveOptions): ReadSources {
  const { root, definitionFile, definition } = project
  const wholeDefinition = path.join(root, definitionFile)
  const files = listSourceFiles(root, [root]).files.filter((file) => file !== wholeDefinition)
  const module = chooseSettingsModule(wholeDefinition, root, files)
  const found = moveSources(root, files, findings, options)
  const sources = options.as === 'settings' ? found.map((each) => withReachable(each, module)) : found
  const documentsOf = memoize((stage: string) => readStageDocuments(root, stage, definition ?? NOTHING_DEFINED))
  return { files, wholeDefinition, module, sources, documentsOf }
}

/** Where each finding goes, or why it goes nowhere. */
export function chooseTargets(
  project: MoveProject,
  findings: readonly Finding[],
  options: MoveOptions,
  { sources, documentsOf }: ReadSources,
): readonly Target[] {
  const allStages = (project.definition ?? NOTHING_DEFINED).stages
  const stages = [options.stage, ...allStages.filter((each) => each !== options.stage)]
  const values = stages.map((stage) => readStageValues(project, stage, documentsOf(stage)))
  const onPages = new Set([...listPagePlaces(sources)].map(({ finding }) => finding))
  const isPublic = (finding: Finding) => onPages.has(finding)
  return planTargets(findings, { definition: project.definition, values, overrides: options, isPublic })
}

/** The places in pages that get public settings. */
function listPagePlaces(sources: readonly MoveSource[]): ReadonlySet<MovePlace> {
  const ofPages = sources.filter(({ ofPage }) => ofPage)
  return new Set(ofPages.flatMap((each) => each.places.filter(({ obstacle }) => obstacle === null)))
}

/** The sources, each place with what keeps it: a refusal, its target, or what was known of it. */
export function placeObstacles(
  sources: readonly MoveSource[],
  targets: readonly Target[],
  refusal: (place: MovePlace) => Obstacle | null,
): readonly MoveSource[] {
  const pagePlaces = listPagePlaces(sources)
  const refused = new Map<Finding, Obstacle>()
  const existing = new Map<Finding, Declaration>()
  for (const target of targets)
    if ('obstacle' in target) refused.set(target.finding, target.obstacle)
    else if ('existing' in target) existing.set(target.finding, target.existing)
  const findObstacle = (place: MovePlace): Obstacle | null => {
    const own = existing.get(place.finding)
    const isHidden = pagePlaces.has(place) && own !== undefined && !own.public
    return (
      refusal(place) ??
      refused.get(place.finding) ??
      (isHidden ? makeObstacle('not-public', { name: own.name }) : place.obstacle)
    )
  }
  return sources.map((each) => ({
    ...each,
    places: each.places.map((place): MovePlace => {
      const name = existing.get(place.finding)?.name
      return { ...place, obstacle: findObstacle(place), ...(name === undefined ? {} : { name }) }
    }),
  }))
}

export function toMoved(
  target: Target,
  definition: Definition,
  places: readonly MovePlace[],
  stage: string,
): MovedFinding {
  const { finding } = target
  const wanted = getPath(target)
  const declaration = definition.settings.find((each) => each.path === wanted)!
  const own = places.filter((each) => each.finding === finding && each.obstacle === null)
  return { finding, declaration, layers: planLayers(finding, declaration, stage), places: own }
}

/** The sources that change, with readings in the places of what moves. */
export function rewriteSources(
  { root }: MoveProject,
  { sources, module }: Pick<ReadSources, 'sources' | 'module'>,
  moved: readonly MovedFinding[],
  { as }: MoveOptions,
): readonly RewrittenSource[] {
  const readings = new Map(moved.map(({ finding, declaration }) => [finding, toReadSetting(declaration, finding)]))
  const moduleType = readManifest(root).type === 'module' ? 'module' : 'commonjs'
  return sources
    .filter(({ obstacle }) => obstacle === null)
    .map((each) => rewriteSource(each, readings, { as, module, moduleType }))
    .filter(({ before, after }) => before !== after)
}

interface Changed extends ReadSources {
  readonly definition: Definition
  /** The change of the definition; `null` where it stays. */
  readonly change: FileChange | null
  readonly moved: readonly MovedFinding[]
  readonly rewritten: readonly RewrittenSource[]
}

/** What changes beside the sources, in the order in which it is written, with the sources among it. */
export function collectChanges(
  { root, definition: before, definitionFile }: MoveProject,
  { sources, module, definition, change, moved, rewritten, documentsOf }: Changed,
  { as }: MoveOptions,
) {
  const isJavaScript = ({ file }: RewrittenSource) =>
    sources.find((each) => each.file === file)?.driver.readsSettings === true
  const inJavaScript = rewritten.filter(isJavaScript)
  const pages = new Set(sources.filter(({ ofPage }) => ofPage).map(({ file }) => file))
  const onPages = rewritten.filter(({ file }) => pages.has(file))
  const pageTexts = [...findBrowserFiles(root)].map((each) => readRegularText(each) ?? '')
  const plugin =
    onPages.length === 0 ? null : planPluginChange(root, { keeps: pageTexts.some(readsBuiltVariable) }, rewritten)
  const isLoaded = inJavaScript.length > onPages.length
  const needsModule = as === 'settings' && module.text !== null && isLoaded
  const changes = [
    ...planLayerChanges(root, moved, documentsOf),
    ...(change === null ? [] : [change]),
    ...(needsModule ? [{ file: toRelativePath(root, module.file), before: null, after: module.text! }] : []),
    ...(change === null ? [] : planExampleChange(root, before, definition)),
    ...(onPages.length === 0 ? [] : planModulesChange(root, definitionFile, definition)),
    ...(plugin?.change == null ? [] : [plugin.change]),
    ...rewritten.filter(({ file }) => file !== plugin?.change?.file),
  ]
  // Pages are built with it; what runs loads it, also where nothing for development is installed.
  const packages = isLoaded ? (readManifest(root).dependencies ?? {}) : listPackages(root)
  return {
    changes,
    inJavaScript,
    pluginMissing: plugin?.change === null ? plugin.file : null,
    packageMissing: as === 'settings' && inJavaScript.length > 0 && packages['mappa-settings'] === undefined,
  }
}

interface Drafted extends Omit<Changed, 'change'> {
  readonly places: readonly MovePlace[]
  readonly changes: readonly FileChange[]
  readonly inJavaScript: readonly RewrittenSource[]
  readonly pluginMissing: string | null
  readonly packageMissing: boolean
}

/** All of it together, with what a person has to know or to do. */
export function assemblePlan(
  { root }: MoveProject,
  { stage, as }: MoveOptions,
  {
    files,
    wholeDefinition,
    sources,
    definition,
    moved,
    rewritten,
    places,
    changes,
    inJavaScript,
    pluginMissing,
    packageMissing,
  }: Drafted,
): MovePlan {
  const secrets = moved.filter(({ declaration }) => declaration.secret)
  const searched = [...files, ...(fs.existsSync(wholeDefinition) ? [wholeDefinition] : [])]
  const leftovers = findRemainingPlaces(
    root,
    searched,
    secrets.map(({ finding }) => finding),
    places,
  )
  const secretFiles = [...new Set(secrets.flatMap(({ layers }) => layers.map(({ file }) => file)))]
  const templates = planTemplates(sources, rewritten, moved)
  const ignoring = ignoreChange(root, secretFiles, templates)
  const touched = [...changes, ...templates].map(({ file }) => file)
  return {
    stage,
    moved,
    left: [...places.filter(({ obstacle }) => obstacle !== null), ...leftovers.places],
    notSearched: leftovers.skipped,
    changes: ignoring === null ? changes : [ignoring, ...changes],
    secretFiles,
    lacking: findStagesLacking(root, definition, moved, stage),
    definition,
    inRepository: findRepository(root) !== null,
    tracked: listTracked(root, touched),
    as,
    templates,
    starts: startCommands(sources, rewritten, moved),
    readsProcess: inJavaScript.length > 0,
    pluginMissing,
    packageMissing,
  }
}

/** A source whose places stay where Node would have to load TypeScript for it, which it does not do for tools of every age. */
function withReachable(source: MoveSource, { file }: SettingsModule): MoveSource {
  const isReadAsItIs = /\.config\.[cm]?js$/.test(source.file)
  if (source.obstacle !== null || !isReadAsItIs || !/\.[cm]?ts$/.test(file)) return source
  const obstacle = makeObstacle('config-typescript')
  return { ...source, obstacle, places: source.places.map((each) => ({ ...each, obstacle })) }
}

/** What the settings of a stage are by its files alone: the environment of this process is nobody else's. */
function readStageValues({ definition }: MoveProject, stage: string, documents: ReadonlyMap<string, EnvDocument>) {
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
  return stages.map((each) => ({ stage: each, file: chooseLayer({ secret }, each), value: findValue(finding, each) }))
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

function toReadSetting({ keys, name, secret, kind, options }: Declaration, { value }: Finding): ReadSetting {
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
      const layers = readLayers(envFiles(root, definition).sources, each)
      const { settings } = resolveSettings(definition, { stage: each, layers })
      const names = settings
        .filter(({ declaration, text }) => paths.has(declaration.path) && text === undefined && !declaration.optional)
        .map(({ declaration }) => declaration.name)
      return { stage: each, names }
    })
    .filter(({ names }) => names.length > 0)
}
