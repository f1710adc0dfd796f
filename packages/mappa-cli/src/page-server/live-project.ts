import type { Definition } from '@mappa/core/definition/definition'
import { listSources } from '@mappa/core/layers/source'
import { viewProblem } from '@mappa/core/problems/catalogue/views'
import type { Problem } from '@mappa/core/problems/problem'
import { isSettingsError } from '@mappa/core/problems/settings-error'
import { watchFiles } from '@mappa/node/fs/watch-files'
import type { Inspection } from '@mappa/node/load/inspect'
import { listDefinitionParts } from '@mappa/node/project/definition/imports'
import { listPresentStages } from '@mappa/node/sources/present-stages'
import { projectSources } from '@mappa/node/sources/project-sources'
import { checkStages } from '../analysis/check/checked-stages.ts'
import { withPlaces } from '../analysis/check/missing.ts'
import { makeMarks } from '../analysis/compare/marks.ts'
import type { Project } from '../project/project.ts'
import { StageInspector, type StoreChoice } from '../project/store.ts'
import { toOverview } from '../views/overview.ts'
import type { PageState } from '../views/page.ts'
import { problemView } from '../views/problem.ts'

/** What a project is shown with. */
export interface LiveOptions extends StoreChoice {
  /** The stages to show; all of the definition if empty. */
  readonly stages: readonly string[]
  readonly hasEditor: boolean
}

/** A project that is inspected anew whenever a file or its store changes. */
export class LiveProject {
  #project: Project
  #inspector: StageInspector
  #inspections: readonly Inspection[] = []
  #revision = 0
  #failures: readonly Problem[] = []
  #stopWatching: readonly (() => void)[] = []
  #reading: Promise<void> = Promise.resolve()
  #isClosed = false
  readonly #options: LiveOptions
  readonly #listeners = new Set<(revision: number) => void>()
  readonly #marks = makeMarks()
  #state: PageState | null = null

  private constructor(project: Project, inspector: StageInspector, options: LiveOptions) {
    this.#project = project
    this.#inspector = inspector
    this.#options = options
  }

  /**
   * Inspects a project.
   *
   * @throws {SettingsError} where a stage is none of the definition, or the store is not there
   */
  static async open(project: Project, options: LiveOptions): Promise<LiveProject> {
    const chosen = chooseStages(project, options)
    const live = new LiveProject(project, await StageInspector.open(project, options, chosen), options)
    live.#inspect()
    return live
  }

  get project(): Project {
    return this.#project
  }

  get definition(): Definition {
    return this.#project.definition
  }

  /** The stages as they are now, checked together. */
  get inspections(): readonly Inspection[] {
    return this.#inspections
  }

  /** What the page shows. */
  get state(): PageState {
    const { manifest, root } = this.#project
    this.#state ??= {
      revision: this.#revision,
      overview: toOverview(this.#inspections, { project: manifest.name ?? getName(root), marks: this.#marks }),
      failures: this.#failures.map(problemView),
      hasEditor: this.#options.hasEditor,
    }
    return this.#state
  }

  /**
   * Tells of every change.
   *
   * @returns a function that stops watching
   */
  onChange(listener: (revision: number) => void): () => void {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  /** Reads everything again, as after a change of a file; for what this process wrote itself. */
  refresh(): Promise<void> {
    return this.#again(true)
  }

  #again(isDefinition: boolean): Promise<void> {
    const next = this.#reading.then(() => this.#read(isDefinition))
    // What goes wrong is told to whoever asked, and keeps nobody from reading again.
    this.#reading = next.catch(() => {})
    return next
  }

  close(): void {
    this.#isClosed = true
    this.#stop()
    this.#inspector.close()
  }

  #stop(): void {
    for (const stop of this.#stopWatching) stop()
    this.#stopWatching = []
  }

  /** @param isDefinition false where only values have changed, so that the definition need not be loaded again */
  async #read(isDefinition: boolean): Promise<void> {
    if (this.#isClosed) return
    if (!isDefinition && this.#failures.length === 0) {
      this.#inspect()
      this.#tell()
      return
    }
    try {
      const project = await this.#project.reopen()
      const before = this.#project.definition.stages.join()
      this.#project = project
      if (project.definition.stages.join() !== before) {
        this.#inspector.close()
        this.#inspector = await StageInspector.open(project, this.#options, chooseStages(project, this.#options))
      }
      this.#failures = []
      this.#inspect()
    } catch (error) {
      if (!isSettingsError(error)) throw error
      this.#failures = error.problems
    }
    // The definition may have become another, which reads other files.
    this.#stop()
    this.watch()
    this.#tell()
  }

  #inspect(): void {
    const chosen = chooseStages(this.#project, this.#options)
    const found = chosen.map((stage) => withPlaces(this.#inspector.inspect(this.#project, stage)))
    this.#inspections = checkStages(found)
  }

  #tell(): void {
    this.#revision++
    this.#state = null
    for (const listener of this.#listeners) listener(this.#revision)
  }

  /** Follows every change of the files, of the definition and of the store. */
  watch(): void {
    if (this.#isClosed) return
    const { definitionFile, root, definition } = this.#project
    const { sources } = projectSources(definition, root, definition.directory)
    const stages = this.#inspections.map(({ stage }) => stage)
    const listPaths = (isDirectory: boolean) =>
      stages.flatMap((stage) =>
        listSources(sources, stage)
          .filter(({ kind }) => (kind === 'directory') === isDirectory)
          .flatMap((source) => source.paths?.(stage) ?? []),
      )
    const parts = definitionFile === null ? [] : listDefinitionParts(definitionFile).files
    const follow = (isDefinition: boolean) => () =>
      void this.#again(isDefinition).catch((error) => this.#reportUnexpected(error))
    this.#stopWatching = [
      watchFiles(parts, [], follow(true)),
      watchFiles([...new Set(listPaths(false))], [...new Set(listPaths(true))], follow(false)),
      ...stages.map((stage) => this.#inspector.watch(stage, follow(false), (problem) => this.#failed(problem))),
    ]
  }

  /** What keeps the page as it was. A message that nobody has foreseen may hold a value, so only the name of such an error is told. */
  #reportUnexpected(error: unknown): void {
    if (isSettingsError(error)) {
      for (const each of error.problems) this.#failed(each)
      return
    }
    const reason = error instanceof Error ? error.name : 'an unknown error'
    this.#failed(viewProblem('view-not-refreshed', { reason }))
  }

  /** A store that can't be watched at the moment. */
  #failed(problem: Problem): void {
    if (this.#failures.some(({ code, stage }) => code === problem.code && stage === problem.stage)) return
    this.#failures = [...this.#failures, problem]
    this.#tell()
  }
}

function chooseStages(project: Project, { stages }: LiveOptions) {
  const names = stages.length > 0 ? [...new Set(stages)] : listPresentStages(project.root, project.definition)
  return names.map((name) => project.stage(name, 'the argument of mappa view'))
}

function getName(root: string): string {
  return root.split(/[\\/]/).findLast((part) => part !== '') ?? root
}
