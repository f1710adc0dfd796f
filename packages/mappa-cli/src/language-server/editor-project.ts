import type { Definition } from '@mappa/core/definition/definition'
import { listAncestors } from '@mappa/core/definition/stages'
import { EnvDocument } from '@mappa/core/envfile/document'
import { listLayerPaths } from '@mappa/core/layers/order'
import type { Source } from '@mappa/core/layers/source'
import { listSources } from '@mappa/core/layers/source'
import { documentLayer } from '@mappa/core/layers/sources'
import type { Problem } from '@mappa/core/problems/problem'
import { isSettingsError } from '@mappa/core/problems/settings-error'
import { type Resolution, resolveSettings } from '@mappa/core/resolve/resolve'
import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { watchFiles } from '@mappa/node/fs/watch-files'
import { listDefinitionParts } from '@mappa/node/project/definition/imports'
import { listPresentStages } from '@mappa/node/sources/present-stages'
import { projectSources } from '@mappa/node/sources/project-sources'
import { checkStages } from '../analysis/check/checked-stages.ts'
import { listAllLayerPaths, listOwnLayerPaths } from '../analysis/guard/env-files.ts'
import { loadDefinition } from '../project/definition/load.ts'
import { checkPatterns } from '../project/patterns/check-patterns.ts'
import { Project } from '../project/project.ts'

/** The text of an open document by its absolute path; `null` where it is not open. */
export type OpenText = (file: string) => string | null

/** A project as an editor has it: what is typed and not saved yet counts. */
export class EditorProject {
  readonly project: Project
  #definition: Definition
  #definitionProblems: readonly Problem[] = []
  #stages: readonly Resolution[] | null = null
  /** Each stage by itself, so that a file of one stage is no reason to work out the others. */
  readonly #resolved = new Map<string, Resolution>()
  readonly #documents = new Map<string, EnvDocument>()
  readonly #open: OpenText
  #stop: () => void = () => {}

  private constructor(project: Project, open: OpenText) {
    this.project = project
    this.#definition = project.definition
    this.#open = open
  }

  /**
   * Opens the project of a directory.
   *
   * @throws {SettingsError} where it has no definition, or a wrong one
   */
  static async at(root: string, open: OpenText): Promise<EditorProject> {
    return new EditorProject(await Project.open({ root }), open)
  }

  get root(): string {
    return this.project.root
  }

  /** The last definition that could be read. */
  get definition(): Definition {
    return this.#definition
  }

  /** What is wrong with the definition now. */
  get definitionProblems(): readonly Problem[] {
    return this.#definitionProblems
  }

  /** The absolute path of the definition. */
  get definitionFile(): string {
    return this.project.definitionFile!
  }

  /** True for a layer file of the project, by its path relative to the root. */
  isLayer(file: string): boolean {
    return listOwnLayerPaths(this.root, this.#definition).includes(file)
  }

  /** The layer files that exist, on the disk or in the editor. */
  get layers(): readonly string[] {
    return listOwnLayerPaths(this.root, this.#definition).filter((file) => this.getText(file) !== null)
  }

  /** The stages that a layer file belongs to. */
  listStages(file: string): readonly string[] {
    return this.#listStages().filter((stage) => this.#listPaths(stage, []).includes(file))
  }

  /** The stages whose values a file can change, also one that the project shares with others. */
  #stagesReading(file: string): readonly string[] {
    const whole = path.resolve(this.root, file)
    return this.#listStages().filter((stage) =>
      this.#listPaths(stage, this.#definition.layersFrom).some((each) => path.resolve(this.root, each) === whole),
    )
  }

  #listStages(): readonly string[] {
    return listPresentStages(this.root, this.#definition)
  }

  #listPaths(stage: string, layersFrom: readonly string[]): readonly string[] {
    return listLayerPaths(stage, layersFrom, listAncestors(this.#definition, stage))
  }

  /** The text of a file of the project, as the editor has it; `null` where there is none. */
  getText(file: string): string | null {
    const whole = path.resolve(this.root, file)
    const open = this.#open(whole)
    if (open !== null) return open
    try {
      return fs.existsSync(whole) ? readRegularText(whole) : null
    } catch {
      return null
    }
  }

  /** A layer file, read. */
  document(file: string): EnvDocument {
    const known = this.#documents.get(file)
    if (known !== undefined) return known
    const document = EnvDocument.from(this.getText(file) ?? '', { file })
    this.#documents.set(file, document)
    return document
  }

  /** All stages as they are now, checked together. The environment of the editor is nobody's, so it is no layer. */
  get stages(): readonly Resolution[] {
    this.#stages ??= checkStages(this.#listStages().map((stage) => this.#stage(stage)))
    return this.#stages
  }

  #stage(stage: string): Resolution {
    const known = this.#resolved.get(stage) ?? this.#resolve(stage)
    this.#resolved.set(stage, known)
    return known
  }

  #resolve(stage: string): Resolution {
    const { root } = this
    const definition = this.#definition
    const { sources, problems } = projectSources(definition, root, definition.directory)
    const layers = listSources(sources, stage).map((source) => this.#layer(source, stage))
    const exists = (file: string) => fs.existsSync(path.resolve(root, file))
    const found = resolveSettings(definition, { stage, layers, exists, root })
    return { ...found, problems: [...found.problems, ...problems(stage)] }
  }

  /** What is open counts as it is there; all else is read from the disk, with its own problems. */
  #layer(source: Source, stage: string) {
    const [whole] = source.kind === 'file' ? (source.paths?.(stage) ?? []) : []
    if (whole === undefined || this.#open(whole) === null) return source.read(stage)
    const file = toRelativePath(this.root, whole)
    return documentLayer(file, this.document(file), !this.isLayer(file))
  }

  /**
   * Forgets what was worked out: something was typed, or has changed on the disk.
   *
   * @param file the one file that changed, relative to the root; any file if left out
   */
  applyChange(file?: string): void {
    const stages = file === undefined ? [] : this.#stagesReading(file)
    if (file !== undefined && stages.length === 0) return
    this.#stages = null
    if (file === undefined) {
      this.#documents.clear()
      this.#resolved.clear()
      return
    }
    this.#documents.delete(file)
    for (const stage of stages) this.#resolved.delete(stage)
  }

  /** Reads the definition again, as the editor has it. A wrong one leaves the last good one. */
  async definitionChanged(): Promise<void> {
    try {
      const text = this.#open(this.definitionFile) ?? undefined
      const definition = await loadDefinition(this.definitionFile, this.root, text, true)
      await checkPatterns(definition)
      this.#definition = definition
      this.#definitionProblems = []
    } catch (error) {
      if (!isSettingsError(error)) throw error
      this.#definitionProblems = error.problems
    }
    this.applyChange()
  }

  /** Tells of changes on the disk, since not every editor does. */
  watch(changed: (isDefinition: boolean) => void): void {
    this.#stop()
    const parts = listDefinitionParts(this.definitionFile).files
    const layers = listAllLayerPaths(this.root, this.#definition).map((file) => path.join(this.root, file))
    const stops = [watchFiles(parts, [], () => changed(true)), watchFiles(layers, [], () => changed(false))]
    this.#stop = () => {
      for (const stop of stops) stop()
    }
  }

  close(): void {
    this.#stop()
  }
}
