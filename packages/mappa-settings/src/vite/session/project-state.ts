import { join, resolve } from 'node:path'
import type { Definition } from '@mappa/core/definition/definition'
import { isStage, listAncestors } from '@mappa/core/definition/stages'
import { listLayerPaths } from '@mappa/core/layers/order'
import { findPublicFaults } from '@mappa/core/page/public-values'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { publicValueProblem } from '@mappa/core/problems/catalogue/public-values'
import { mustBeStage } from '@mappa/core/problems/option-names'
import { hasErrors, type Problem } from '@mappa/core/problems/problem'
import type { Report } from '@mappa/core/problems/report'
import { isSettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { mayBeKeptElsewhere } from '@mappa/core/resolve/rules-between'
import { toLiteral } from '@mappa/core/values/literal'
import { toPayload } from '@mappa/core/values/payload-schema'
import { defaultedStages, type Inspection, inspectStage, toReport } from '@mappa/node/load/inspect'
import { DEFINITION_FILES, requireDefinition } from '@mappa/node/project/definition/find'
import { listDefinitionParts } from '@mappa/node/project/definition/imports'
import { loadDefinition } from '@mappa/node/project/definition/load'
import { findRoot } from '@mappa/node/project/root'
import type { ChosenStage } from '@mappa/node/project/stage'
import { checkPatterns } from './check-patterns.ts'
import type { MappaOptions } from './options.ts'
import { runByVite } from './run-by-vite.ts'

/** What is known of a project's settings at one moment. */
export interface ProjectState {
  /** The directory of the layer files. */
  readonly root: string
  /** The absolute path of the definition; `null` where none was found. */
  readonly file: string | null
  readonly definition: Definition | null
  /** The settings of the stage; `null` where there is no definition or no such stage. */
  readonly inspection: Inspection | null
  /** Everything that is wrong, notices included. */
  readonly report: Report
  /** True where nothing is wrong that would keep a page from being built. */
  readonly usable: boolean
  /** The files that change this: layers, the definition, and what it imports. Absolute paths. */
  readonly files: readonly string[]
  /** The definition and what it imports. Absolute paths; empty where there is no definition. */
  readonly parts: readonly string[]
  /** The modules through which the definition may depend on files that are not among these. */
  readonly unknown: readonly string[]
}

/**
 * Looks at a project's settings. Throws nothing for what is wrong with them; it is in the report.
 *
 * @param viteRoot the root of Vite, an absolute path
 * @param mode the mode of Vite, which names the stage
 */
export async function readProjectState(viteRoot: string, mode: string, options: MappaOptions): Promise<ProjectState> {
  const root = options.root === undefined ? findRoot(viteRoot) : resolve(viteRoot, options.root)
  let file: string | null = null
  let definition: Definition | null = null
  try {
    const asked =
      options.settings === undefined
        ? undefined
        : { file: options.settings, from: root, named: 'the option settings of mappa()' }
    file = requireDefinition(root, asked)
    definition = await loadDefinition(file, root, runByVite)
    const notChecked = await checkPatterns(definition, root)
    const stage = options.stage ? takeStage(definition, options.stage) : chooseModeStage(definition, mode)
    checkMode(stage.stage, root)
    const inspection = inspectStage(definition, stage, { root })
    const problems = [
      ...notChecked,
      ...inspection.problems,
      ...findUnfit(inspection),
      // What comes into a page in another spelling is found there.
      ...findPublicFaults(inspection.settings, { allowInPage: options.allowInPage }),
    ].filter((each) => !(options.allowMissingPrivate === true && isMissingPrivate(each, inspection)))
    const report = { ...toReport(inspection), problems }
    const { files: parts, unknown } = listDefinitionParts(file)
    const files = [...listLayers(root, stage.stage, definition), ...parts]
    return { root, file, definition, inspection, report, usable: !hasErrors(problems), files, parts, unknown }
  } catch (error) {
    if (!isSettingsError(error)) throw error
    const { files: parts, unknown } = file === null ? { files: [], unknown: [] } : listDefinitionParts(file)
    const files = file === null ? DEFINITION_FILES.map((each) => join(root, each)) : parts
    return {
      root,
      file,
      definition,
      inspection: null,
      report: { root, ...error.report },
      usable: false,
      files,
      parts,
      unknown,
    }
  }
}

function listLayers(root: string, stage: string, definition: Definition): string[] {
  return listLayerPaths(stage, definition.layersFrom, listAncestors(definition, stage)).map((each) => join(root, each))
}

/** The stage that Vite's mode names. Two that name different ones are an error, since one of them would be silent. */
function chooseModeStage(definition: Definition, mode: string): ChosenStage {
  const from = 'the mode of Vite'
  const { stages } = definition
  // The mode of test runners, which is a stage for nobody: the same holds as for programs that run in tests.
  if (mode === 'test' && !isStage(definition, mode)) {
    const { MAPPA_STAGE: named } = process.env
    if (named) mustBeStage(named, definition, 'MAPPA_STAGE')
    return named
      ? { stage: named, from: 'MAPPA_STAGE' }
      : { stage: stages[0]!, from: 'the definition, whose first stage it is' }
  }
  mustBeStage(mode, definition, from)
  const { MAPPA_STAGE } = process.env
  if (MAPPA_STAGE === undefined || MAPPA_STAGE === '' || MAPPA_STAGE === mode) return { stage: mode, from }
  throw settingsError(pageProblem('stage-contradicted', { stage: MAPPA_STAGE, mode }))
}

/** The stage that the configuration names. Where the environment names another one, one of them would be silent. */
function takeStage(definition: Definition, stage: string): ChosenStage {
  const from = 'the option stage of mappa()'
  mustBeStage(stage, definition, from)
  const { MAPPA_STAGE } = process.env
  if (MAPPA_STAGE && MAPPA_STAGE !== stage)
    throw settingsError(pageProblem('stage-not-option', { stage, asked: MAPPA_STAGE }))
  return { stage, from }
}

/** A configuration that loads settings gets those that the environment names: never of another stage than the page. */
function checkMode(mode: string, root: string): void {
  const stage = defaultedStages.get(root) ?? mode
  if (stage !== mode) throw settingsError(pageProblem('stage-not-mode', { stage, mode }))
}

/** Public values that can't be handed to a page. */
function findUnfit({ settings }: Inspection): Problem[] {
  return settings.flatMap(({ declaration, value, valid }) => {
    const { path, name, readAt } = declaration
    if (readAt === null || !valid || value === undefined) return []
    const fits = readAt === 'build' ? toLiteral(value) !== null : toPayload(value) !== undefined
    return fits ? [] : [publicValueProblem('public-not-data', { path }, { setting: path, name })]
  })
}

function isMissingPrivate(each: Problem, { settings }: Inspection): boolean {
  const { code, setting } = each
  if (code !== 'missing' && code !== 'empty')
    return mayBeKeptElsewhere(each, settings, (declaration) => !declaration.public)
  return settings.some(({ declaration }) => declaration.path === setting && !declaration.public)
}
