import { statSync } from 'node:fs'
import { relative } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import { formatReport } from '@mappa/core/problems/report'
import { classifySkip, describeSkip } from '@mappa/core/problems/skip-reasons'
import { readLimited } from '@mappa/node/fs/read-file'
import type { SkippedPart } from '@mappa/search/read/coverage'
import type { ProjectState } from '../session/project-state.ts'
import type { Session } from '../session/session.ts'
import type { ValueFiles } from './search.ts'
import type { Search } from './wanted.ts'

/** What is looked for in one state of the settings. */
interface Prepared {
  readonly search: Search
  readonly files: ValueFiles
  /** What was found in files on the disk, by their paths. A film is asked for piece by piece. */
  readonly known: Map<string, { readonly state: string; readonly problems: readonly Problem[] }>
}

/** Larger files are not looked through while serving, in bytes: 32 MiB. Whoever asks for one would wait for seconds. */
const MAX_SERVED_BYTES = 32 * 1024 * 1024

/** The search of what a development server hands out, by the settings as they are at that time. */
export class ServedSearch {
  readonly #session: Session
  readonly #prepared = new WeakMap<ProjectState, Prepared>()
  /** What was said of files that were not searched. */
  readonly #told = new Set<string>()

  constructor(session: Session) {
    this.#session = session
  }

  /**
   * What is wrong with something that is handed out.
   *
   * @param file what it is called
   * @param id the module that it is, if it is one
   */
  async findLeaks(file: string, content: string | Buffer, id?: string): Promise<readonly Problem[]> {
    const { state } = this.#session
    if (state.inspection === null) return []
    const check = await import('./search.ts')
    const { search, files } = this.#prepare(check, state)
    const bytes = typeof content === 'string' ? Buffer.from(content) : content
    const whole = files.findProblems(file, check.bytewise(bytes))
    if (whole.length > 0) return whole
    const { problems, skipped } = check.findLeaks({ file, bytes }, search, state.inspection.settings)
    this.#tellSkipped(file, skipped)
    return problems.map((each) =>
      id === undefined ? each : withLocation(each, { importTrace: [check.getSource(id, each, this.#session)] }),
    )
  }

  /** What is wrong with a file that is handed out as it is; nothing where there is none. */
  async findLeaksInFile(file: string): Promise<readonly Problem[]> {
    const stats = statSync(file, { throwIfNoEntry: false, bigint: true })
    if (stats?.isFile() !== true || this.#session.state.inspection === null) return []
    const { known } = this.#prepare(await import('./search.ts'), this.#session.state)
    const state = `${stats.ino} ${stats.size} ${stats.mtimeNs} ${stats.ctimeNs}`
    const before = known.get(file)
    if (before?.state === state) return before.problems
    const shown = relative(this.#session.state.root, file)
    const read = readLimited(file, MAX_SERVED_BYTES)
    // Of one that is not read, the name is known all the same.
    const problems = await this.findLeaks(shown, read.skipped === null ? read.bytes : Buffer.alloc(0))
    if (read.skipped !== null && problems.length === 0) this.#tellSkipped(shown, [{ part: null, reason: read.skipped }])
    known.set(file, { state, problems })
    return problems
  }

  /** What is wrong with the files of a directory that are handed out as they are. */
  async findLeaksInDirectory(directory: string): Promise<readonly Problem[]> {
    const check = await import('./search.ts')
    const problems: Problem[] = []
    for (const { whole } of check.listServedFiles(directory)) problems.push(...(await this.findLeaksInFile(whole)))
    return problems
  }

  /** Says once of an answer that it is too large to be looked at. */
  tellLarge(file: string): void {
    this.#tellSkipped(file, [{ part: null, reason: 'too-large' }])
  }

  /** Says once of each file that nobody knows what is in it. */
  #tellSkipped(file: string, skipped: readonly SkippedPart[]): void {
    for (const { part, reason } of skipped.filter(({ reason }) => classifySkip(reason) === 'failed')) {
      const what = part === null ? file : `${part} in ${file}`
      if (this.#told.has(what)) continue
      this.#told.add(what)
      const why = describeSkip(reason, MAX_SERVED_BYTES)
      const problems = [pageProblem('served-not-searched', { file: what, why }, { file })]
      this.#session.config!.logger.warn(formatReport({ title: 'The page', stage: null, problems }))
    }
  }

  #prepare(check: typeof import('./search.ts'), state: ProjectState): Prepared {
    const known = this.#prepared.get(state)
    if (known !== undefined) return known
    const search = check.verifySearch(check.prepareSearch(state.inspection!, this.#session.options.allowInPage ?? []))
    const prepared = { search, files: new check.ValueFiles(state), known: new Map() }
    this.#prepared.set(state, prepared)
    return prepared
  }
}
