import { readFileSync, statSync } from 'node:fs'
import { relative } from 'node:path'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import type { ProjectState } from '../session/project-state.ts'
import type { Session } from '../session/session.ts'
import type { Search, ValueFiles } from './search.ts'

/** What is looked for in one state of the settings. */
interface Prepared {
  readonly search: Search
  readonly files: ValueFiles
}

/** Larger files are not looked through while serving, in bytes: 4 MiB. */
const MAX_FILE_BYTES = 4 * 1024 * 1024

/** The search of what a development server hands out, by the settings as they are at that time. */
export class ServedSearch {
  readonly #session: Session
  readonly #prepared = new WeakMap<ProjectState, Prepared>()

  constructor(session: Session) {
    this.#session = session
  }

  /**
   * What is wrong with something that is handed out.
   *
   * @param file what it is called
   * @param id the module that it is, if it is one
   */
  async findLeaks(file: string, content: string | Uint8Array, id?: string): Promise<Problem[]> {
    const { state } = this.#session
    if (state.inspection === null) return []
    const check = await import('./search.ts')
    const { search, files } = this.#prepare(check, state)
    const text = check.bytewise(content)
    const whole = files.findProblems(file, text)
    if (whole.length > 0) return whole
    const found = check.findLeaks(
      { file, text, isText: typeof content === 'string' },
      search,
      state.inspection.settings,
    )
    return found.map((each) =>
      id === undefined ? each : withLocation(each, { importTrace: [check.getSource(id, each, this.#session)] }),
    )
  }

  /** What is wrong with a file that is handed out as it is; nothing where there is none. */
  async findLeaksInFile(file: string): Promise<Problem[]> {
    const stats = statSync(file, { throwIfNoEntry: false })
    if (stats?.isFile() !== true || stats.size > MAX_FILE_BYTES) return []
    return this.findLeaks(relative(this.#session.state.root, file), readFileSync(file))
  }

  /** What is wrong with the files of a directory that are handed out as they are. */
  async findLeaksInDirectory(directory: string): Promise<Problem[]> {
    const check = await import('./search.ts')
    const files = check.listServedFiles(directory)
    return (await Promise.all(files.map(({ file, read }) => this.findLeaks(file, read())))).flat()
  }

  #prepare(check: typeof import('./search.ts'), state: ProjectState): Prepared {
    const known = this.#prepared.get(state)
    if (known !== undefined) return known
    const search = check.verifySearch(check.prepareSearch(state.inspection!, this.#session.options.allowInPage ?? []))
    const prepared = { search, files: new check.ValueFiles(state) }
    this.#prepared.set(state, prepared)
    return prepared
  }
}
