import type { Definition, Values } from '@mappa/core/definition/definition'
import type { LayerKind } from '@mappa/core/layers/order'
import { listSources } from '@mappa/core/layers/source'
import { describeSettings, type Report } from '@mappa/core/problems/report'
import { SettingsError } from '@mappa/core/problems/settings-error'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { displayValue } from '@mappa/core/secret/display'
import { watchFiles } from '../fs/watch-files.ts'
import { projectSources } from '../sources/project-sources.ts'
import type { StoreOptions } from './fetch.ts'
import { type Inspection, SOURCE_OPTIONS, type SourceOptions, toReport } from './inspect.ts'
import { isNews, printReport } from './load.ts'

/** One setting that has another value than before. Shows no secret. */
export interface SettingChange {
  /** Path in code, such as `night.places`. */
  readonly path: string
  /** Variable name, such as `NIGHT_PLACES`. */
  readonly name: string
  /** The value as a person may see it; `null` where there was none, or is none now. */
  readonly before: string | null
  readonly after: string | null
}

/** Options of `watchSettings`. */
export interface WatchOptions<Program extends string = string> extends SourceOptions<Program> {
  /**
   * Is called with the report if new values are wrong; the last good ones stay.
   * @default it is printed to standard error
   */
  readonly onProblems?: (report: Report) => void
}

export const WATCH_OPTIONS = [...SOURCE_OPTIONS, 'onProblems'] as const

/** Settings that are looked after. */
export interface WatchedSettings<D extends Definition, V = Values<D>> {
  /** The last good values. */
  readonly current: V
  /** Ends the watching, so that the process can end. */
  readonly stop: () => void
}

/** Options of `watchSettings` with a store. */
export interface WatchStoreOptions<Program extends string = string> extends WatchOptions<Program>, StoreOptions {}

/** Is told of new values. */
export type OnChange<D extends Definition, Program extends string = never> = (
  settings: Values<D, Program>,
  changes: readonly SettingChange[],
) => void

/** Settings that are looked after, wherever they come from. */
export class Watching<V> {
  readonly #definition: Definition
  readonly #onChange: (settings: V, changes: readonly SettingChange[]) => void
  readonly #onProblems: (report: Report) => void
  readonly #inspect: (first: Inspection<Definition, V>) => Inspection<Definition, V>
  readonly #first: Inspection<Definition, V>
  #last: Inspection<Definition, V>
  #current: V

  /**
   * @param first what was found to begin with
   * @param inspect finds out anew
   * @throws {SettingsError} where the settings are wrong to begin with
   */
  constructor(
    definition: Definition,
    onChange: (settings: V, changes: readonly SettingChange[]) => void,
    onProblems: ((report: Report) => void) | undefined,
    first: Inspection<Definition, V>,
    inspect: (first: Inspection<Definition, V>) => Inspection<Definition, V>,
  ) {
    if (first.values === null) throw new SettingsError(toReport(first))
    this.#definition = definition
    this.#onChange = onChange
    this.#onProblems = onProblems ?? printReport
    this.#inspect = inspect
    this.#first = first
    this.#last = first
    this.#current = first.values
    const told = first.startNotices.filter(isNews)
    if (told.length > 0) this.tell({ stage: first.stage, problems: told })
  }

  /** Tells of problems that leave the values as they are. */
  tell(report: Report): void {
    this.#onProblems(report)
  }

  /**
   * Looks again.
   *
   * @returns true where all is good
   */
  look(): boolean {
    // Root and stage are fixed: the program may go on to another directory.
    const next = this.#inspect(this.#first)
    if (next.values === null) {
      this.tell({
        ...toReport(next),
        title: `${describeSettings(next.stage, next.program)} changed, and the last good values stay`,
      })
      return false
    }
    const changes = listChanges(this.#last, next)
    this.#last = next
    if (changes.length === 0) return true
    this.#current = next.values
    this.#onChange(this.#current, changes)
    return true
  }

  /**
   * Looks again whenever a file changes.
   *
   * @param alsoStop ends what else is looked after
   */
  watchFiles(
    { directory = this.#definition.directory }: SourceOptions,
    alsoStop = () => {},
  ): { readonly current: V; readonly stop: () => void } {
    const { root, stage } = this.#first
    const watched = listSources(projectSources(this.#definition, root, directory).sources, stage)
    const listPaths = (kind: LayerKind) =>
      watched.filter((each) => each.kind === kind).flatMap((each) => each.paths?.(stage) ?? [])
    const stop = watchFiles(listPaths('file'), listPaths('directory'), () => this.look())
    const current = () => this.#current
    return {
      get current() {
        return current()
      },
      stop() {
        stop()
        alsoStop()
      },
    }
  }
}

function listChanges(before: Inspection<Definition, unknown>, after: Inspection<Definition, unknown>): SettingChange[] {
  return after.settings.flatMap((now, index) => {
    const old = before.settings[index]!
    if (now.text === old.text) return []
    const { path: setting, name } = now.declaration
    return [{ path: setting, name, before: formatShown(old), after: formatShown(now) }]
  })
}

function formatShown({ text, masked }: ResolvedSetting): string | null {
  return text === undefined ? null : displayValue(text, { secret: masked })
}
