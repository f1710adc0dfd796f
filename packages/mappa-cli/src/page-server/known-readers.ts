import { ReaderSearch, type Readers } from '../analysis/usage/readers.ts'
import type { ReadersView } from '../views/story.ts'
import type { LiveProject } from './live-project.ts'

/** So long the places in the code are taken as known, in milliseconds: sources are not watched. */
const FRESH_MS = 5000

/** Where the code reads settings, looked for anew now and then. */
export class KnownReaders {
  readonly #live: LiveProject
  #known: Readers = { readers: [], skipped: [] }
  #lookedAt = Number.NEGATIVE_INFINITY
  #revision = -1

  constructor(live: LiveProject) {
    this.#live = live
  }

  /** The places that read one setting. */
  of(path: string): ReadersView {
    const { project, state } = this.#live
    if (performance.now() - this.#lookedAt > FRESH_MS || this.#revision !== state.revision) {
      this.#known = new ReaderSearch(project.definition).below(project.root, project.definitionFile)
      this.#lookedAt = performance.now()
      this.#revision = state.revision
    }
    const places = this.#known.readers
      .filter(({ setting }) => setting === path)
      .map(({ file, line, column, text }) => ({ file, line, column, text }))
    return { places, notRead: this.#known.skipped.map(({ file }) => file) }
  }
}
