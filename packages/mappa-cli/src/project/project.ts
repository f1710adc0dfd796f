import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { selectProgram } from '@mappa/core/definition/programs'
import { DEFAULT_STAGES, makeStageTree } from '@mappa/core/definition/stages'
import type { Source } from '@mappa/core/layers/source'
import { withLocation } from '@mappa/core/problems/problem'
import { isSettingsError, SettingsError } from '@mappa/core/problems/settings-error'
import { toRelativePath } from '@mappa/node/fs/places'
import { findRepository } from '@mappa/node/git/git'
import { type Inspection, inspectStage } from '@mappa/node/load/inspect'
import {
  type AskedDefinition,
  findDefinition,
  requireDefinition,
  requireFound,
} from '@mappa/node/project/definition/find'
import { chooseRoot, getCurrentDirectory } from '@mappa/node/project/root'
import { type ChosenStage, chooseStage } from '@mappa/node/project/stage'
import { processEnvironment } from '@mappa/node/sources/environment/process-environment'
import { findForeignFiles } from '@mappa/node/sources/present-stages'
import { loadDefinition } from './definition/load.ts'
import { definitionPlace } from './definition/place.ts'
import { declarationNamed } from './find-setting.ts'
import { type Manifest, readManifest } from './manifest.ts'
import { checkPatterns } from './patterns/check-patterns.ts'
import { environmentOfSeveral } from './shared-environment.ts'

/** What names a project. */
export interface ProjectOptions {
  /** Its directory; the nearest one with a `package.json` or `settings.definition.json`, at or above the current one, if left out. */
  readonly root?: string
  /** The file of its definition; found if left out. */
  readonly settings?: string
  /** The program whose settings are looked at, of those that the definition lists; all if left out. */
  readonly program?: string
}

/** A definition that takes longer to load, in milliseconds, is told: its modules do more than declare. */
const SLOW_MS = 8000

/** Is told of definitions that take long to load, while they are, or afterwards where they let nothing else run. */
export const slowDefinitions: { tell: (file: string) => void } = { tell() {} }

/** Is told of layer files that nothing reads, since there is no such stage, whenever a project is opened. */
export const foreignFiles: { tell: ((root: string, found: ReturnType<typeof findForeignFiles>) => void) | null } = {
  tell: null,
}

async function raceTimeout<T>(file: string, load: () => Promise<T>): Promise<T> {
  const began = performance.now()
  let isTold = false
  const tell = () => {
    if (!isTold) slowDefinitions.tell(file)
    isTold = true
  }
  const timer = setTimeout(tell, SLOW_MS)
  try {
    return await load()
  } finally {
    clearTimeout(timer)
    if (performance.now() - began > SLOW_MS) tell()
  }
}

/** A project: one answer to each question about it, found when it is first asked. Many of them can be open in one process. */
export class Project {
  /** The directory of the project. */
  readonly root: string
  /** What decided that, as text. */
  readonly rootFrom: string
  /** The absolute path of the definition; `null` if there is none yet. */
  readonly definitionFile: string | null
  readonly #definition: Definition | null
  readonly #program: string | undefined
  #manifest: Manifest | undefined
  #repository: string | null | undefined

  private constructor(
    { root, from }: { readonly root: string; readonly from: string },
    definitionFile: string | null,
    definition: Definition | null,
    program?: string,
  ) {
    this.root = root
    this.rootFrom = from
    this.definitionFile = definitionFile
    this.#definition = definition === null ? null : selectProgram(definition, program, '--program')
    this.#program = program
  }

  /**
   * Finds a project and loads its definition.
   *
   * @throws {SettingsError} if there is no definition, or a wrong one
   */
  static async open(options: ProjectOptions): Promise<Project> {
    const place = chooseProjectRoot(options)
    return Project.#load(place, requireDefinition(place.root, readAsked(options)), options.program)
  }

  /**
   * The same for what works before there is a definition.
   *
   * @throws {SettingsError} if the definition is wrong
   */
  static async openWithOrWithoutDefinition(options: ProjectOptions): Promise<Project> {
    const place = chooseProjectRoot(options)
    const search = findDefinition(place.root, readAsked(options))
    return search.kind === 'none' ? new Project(place, null, null) : Project.#load(place, requireFound(search))
  }

  static async #load(place: ChosenRoot, file: string, program?: string): Promise<Project> {
    try {
      const definition = await raceTimeout(file, () => loadDefinition(file, place.root))
      await checkPatterns(definition)
      foreignFiles.tell?.(place.root, findForeignFiles(place.root, definition))
      return new Project(place, file, definition, program)
    } catch (error) {
      throw isSettingsError(error) ? new SettingsError({ ...error.report, root: place.root }) : error
    }
  }

  /**
   * The same project with its definition as it is now.
   *
   * @throws {SettingsError} if that is wrong
   */
  async reopen(): Promise<Project> {
    const { root, rootFrom: from, definitionFile: file } = this
    const definition = await loadDefinition(file!, root, undefined, true)
    await checkPatterns(definition)
    return new Project({ root, from }, file, definition, this.#program)
  }

  /** The definition. */
  get definition(): Definition {
    if (this.#definition === null) throw new Error('The project has no definition.')
    return this.#definition
  }

  /** The definition, or `null` if the project has none yet. */
  get definitionIfAny(): Definition | null {
    return this.#definition
  }

  /** The path of the definition, relative to the root; where it would go if there is none. */
  get definitionPlace(): string {
    if (this.definitionFile === null) return definitionPlace(this.root)
    return toRelativePath(this.root, this.definitionFile)
  }

  /** What its `package.json` says. */
  get manifest(): Manifest {
    this.#manifest ??= readManifest(this.root)
    return this.#manifest
  }

  /** The top directory of the git repository that it is in; `null` if it is in none. */
  get repository(): string | null {
    if (this.#repository === undefined) this.#repository = findRepository(this.root)
    return this.#repository
  }

  /**
   * The stage that a command is about.
   *
   * @param asked the stage that is named; as for a program if left out
   * @param from what names it
   */
  stage(asked: string | undefined, from = '--stage'): ChosenStage {
    return chooseStage(
      this.#definition ?? makeStageTree(DEFAULT_STAGES),
      processEnvironment(process.env),
      asked === undefined ? undefined : { stage: asked, from },
      this.root,
    )
  }

  /**
   * Everything about one stage: values, origins, problems.
   *
   * @param stages those that are looked at together with it, itself included
   * @param more sources beside those of the project, such as a store
   */
  inspect(stage: ChosenStage, stages: readonly ChosenStage[] = [stage], more: readonly Source[] = []): Inspection {
    const { definition, root, rootFrom } = this
    if (stages.length === 1) return { ...inspectStage(definition, stage, { root }, more), rootFrom }
    const first = stages[0]!.stage
    const { environment, problems } = environmentOfSeveral(definition, process.env, first)
    const inspection = inspectStage(definition, stage, { root, environment }, more)
    // Said once, of the first.
    const said = stage.stage === first ? problems.map((each) => withLocation(each, { stage: first })) : []
    return { ...inspection, problems: [...inspection.problems, ...said], rootFrom }
  }

  /** Says whether a text contains the value of a secret in any stage. */
  readonly containsSecret = (text: string): boolean =>
    this.definition.stages.some((stage) => this.inspect(this.stage(stage)).containsSecret(text))

  /**
   * The setting with a name.
   *
   * @param name its variable name or its path in code
   * @throws {SettingsError} if there is none, suggesting the closest one
   */
  setting(name: string): Declaration {
    return declarationNamed(this.definition, name)
  }
}

/** The directory of a project, and what decided it. */
interface ChosenRoot {
  readonly root: string
  readonly from: string
}

function chooseProjectRoot({ root }: ProjectOptions): ChosenRoot {
  return root === undefined ? chooseRoot(undefined) : { root: chooseRoot(root).root, from: '--root' }
}

function readAsked({ settings }: ProjectOptions): AskedDefinition | undefined {
  return settings === undefined ? undefined : { file: settings, from: getCurrentDirectory() }
}
