import { createHash } from 'node:crypto'
import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import type { Problem } from '@mappa/core/problems/problem'
import type { Report } from '@mappa/core/problems/report'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { toRelativePath } from '@mappa/node/fs/places'
import type { ResolvedConfig } from 'vite'
import type { MappaOptions } from './options.ts'
import type { ProjectState } from './project-state.ts'

/** What the parts of the plugin share within one run of Vite. */
export interface Session {
  readonly options: MappaOptions
  /** The configuration of Vite, as soon as it is known. */
  config: ResolvedConfig | null
  /** The settings as they were last checked. */
  state: ProjectState
  /** What is wrong with code, found while it was read: the border, and reads without a value. */
  readonly violations: Problem[]
  /**
   * What was asked for although no module imports it, as by a script element or by a page that is still open from before a change.
   * Whoever asks is shown the problem; it does not keep others from opening the page.
   */
  readonly requested: Problem[]
  /** The files that verdicts name, absolute paths, with a text that is another one when the file has changed since. */
  readonly verdicts: Map<string, string>
  /** Counts how often all of that was taken back, since a file changed. What began to be checked before that is checked again. */
  round: number
  /** Has every open page reloaded, and the modules checked again for which there was a verdict; nothing where none is served. */
  reload: () => void
  /** The modules in which values stand in the place of reads. */
  readonly replaced: Set<string>
  /** What Vite works on: its directory and mode; `null` before it begins and when it has ended. */
  run: string | null
  /** Looks again at everything that a server has handed out, by the settings as they are now. */
  searchServed: () => Promise<void>
  /** What is wrong with files that builds of this process have written before, by the settings as they are now. */
  findOnDisk: () => Promise<readonly Problem[]>
}

/** What the parts of the plugin share when a run of Vite begins. */
export function startSession(options: MappaOptions): Session {
  let state: ProjectState | null = null
  return {
    options,
    config: null,
    get state(): ProjectState {
      if (state === null) throw new Error('The settings were asked for before Vite has its configuration.')
      return state
    },
    set state(next) {
      state = next
    },
    violations: [],
    requested: [],
    verdicts: new Map(),
    round: 0,
    reload() {},
    replaced: new Set(),
    run: null,
    searchServed: async () => {},
    findOnDisk: async () => [],
  }
}

/** An error for what is wrong with the code of a page. */
export function toPageError(problems: readonly Problem[], { state }: Session): SettingsError {
  const error = new SettingsError({ title: 'The page', stage: state.report.stage, problems })
  // Some versions of Vite print the message and the stack below it. From one with a line end they take the message away.
  Object.defineProperty(error, 'stack', { value: `${error.stack}\n`, writable: true, configurable: true })
  return error
}

/** Everything that keeps a page from being shown; `null` where nothing does. */
export function findObstacles({ state, violations }: Session): Report | null {
  if (!state.usable) return state.report
  return violations.length === 0 ? null : { title: 'The page', stage: state.report.stage, problems: violations }
}

/** What to show a page that asked for something it may not have; `null` where there is nothing. */
export function listRefusals(session: Session): Report | null {
  const { state, requested } = session
  const found = findObstacles(session)
  if (found !== null) return found
  return requested.length === 0 ? null : { title: 'The page', stage: state.report.stage, problems: requested }
}

/** What to say when a run that watches files begins and may miss a change of the definition; `null` where it misses none. */
export function unwatched({ state: { definition, file, root, unknown } }: Session): Report | null {
  if (definition === null || file === null || unknown.length === 0) return null
  const shown = toRelativePath(root, file)
  const problems = [definitionFileProblem('definition-unwatched', { file: shown, modules: unknown }, { file: shown })]
  return { title: 'The definition', stage: null, problems }
}

/** A text that is another one whenever a page could see a difference. Holds values, so it goes nowhere. */
export function hashReport({ report, inspection }: ProjectState): string {
  const settings = inspection?.settings.map(({ declaration, text }) => {
    const { path, name, readAt, optional, kind, secret } = declaration
    return [path, name, readAt, optional, kind.name, secret, text]
  })
  return JSON.stringify([report.problems, settings])
}

/** A short text that is another one whenever a report is. */
export function toVersion(report: Report): string {
  return createHash('sha256').update(JSON.stringify(report.problems)).digest('hex').slice(0, 16)
}

/** The problems of crossing the border; a module that does it in several ways is told once for each line to change. */
const CROSSINGS: ReadonlySet<string> = new Set(['server-in-page', 'definition-in-page', 'env-file-in-page'])

/** Adds problems that are not there yet. */
export function addProblems(list: Problem[], more: readonly Problem[]): void {
  for (const each of more) {
    const text = JSON.stringify(each)
    const same = list.findIndex((one) => JSON.stringify(one) === text || isSameCrossing(one, each))
    if (same < 0) list.push(each)
    // What loads all settings is the cause, and the definition that it loads comes along.
    else if (each.code === 'server-in-page') list[same] = each
  }
}

function isSameCrossing(one: Problem, other: Problem): boolean {
  const isAtOnePlace = one.file === other.file && one.line === other.line && one.column === other.column
  return isAtOnePlace && one.line !== null && CROSSINGS.has(one.code) && CROSSINGS.has(other.code)
}
