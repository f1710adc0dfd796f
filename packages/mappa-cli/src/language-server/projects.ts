import type { Problem } from '@mappa/core/problems/problem'
import { isSettingsError, type SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '@mappa/node/fs/builtin'
import { findDefinition } from '@mappa/node/project/definition/find'
import { EditorProject, type OpenText } from './editor-project.ts'

/** Why a directory has no project: there is no definition, or a wrong one. */
type Missing = { readonly error: SettingsError; readonly hasDefinition: boolean }

/** The projects of the documents that an editor has open, each opened when it is first needed. */
export class Projects {
  readonly #open: OpenText
  readonly #known = new Map<string, Promise<EditorProject | Missing>>()
  readonly #opened: (project: EditorProject) => void
  readonly #all: EditorProject[] = []

  /**
   * @param open gives the text of an open document
   * @param opened is told of each project that was opened
   */
  constructor(open: OpenText, opened: (project: EditorProject) => void) {
    this.#open = open
    this.#opened = opened
  }

  /** The project that a file belongs to; `null` where there is none with a definition. */
  async of(file: string): Promise<EditorProject | null> {
    for (const directory of above(path.dirname(file))) {
      if (!mayBeRoot(directory)) continue
      const found = await this.#at(directory)
      if (!('error' in found)) return found
      // A wrong definition is no reason to take the one of a directory above.
      if (found.hasDefinition) return null
    }
    return null
  }

  /** Every project that is open. */
  get opened(): readonly EditorProject[] {
    return this.#all
  }

  /** The nearest project at or above a file, if its definition is wrong: its directory, and what is wrong. */
  async findWrong(file: string): Promise<{ readonly root: string; readonly problems: readonly Problem[] } | null> {
    for (const directory of above(path.dirname(file))) {
      if (!mayBeRoot(directory)) continue
      const found = await this.#at(directory)
      if (!('error' in found)) return null
      if (found.hasDefinition) return { root: directory, problems: found.error.problems }
    }
    return null
  }

  /** Looks again where there was no project, or a wrong definition. */
  async forgetMissing(): Promise<void> {
    for (const [directory, found] of this.#known) if ('error' in (await found)) this.#known.delete(directory)
  }

  #at(directory: string): Promise<EditorProject | Missing> {
    const known = this.#known.get(directory)
    if (known !== undefined) return known
    const opening = this.#openProject(directory)
    this.#known.set(directory, opening)
    return opening
  }

  async #openProject(directory: string): Promise<EditorProject | Missing> {
    try {
      const project = await EditorProject.at(directory, this.#open)
      this.#all.push(project)
      this.#opened(project)
      return project
    } catch (error) {
      if (!isSettingsError(error)) throw error
      return { error, hasDefinition: findDefinition(directory).kind !== 'none' }
    }
  }
}

function* above(directory: string): Generator<string> {
  yield directory
  const parent = path.dirname(directory)
  if (parent !== directory) yield* above(parent)
}

const ROOT_FILES = ['package.json', 'settings.definition.json']

function mayBeRoot(directory: string): boolean {
  return ROOT_FILES.some((file) => fs.existsSync(path.join(directory, file)))
}
