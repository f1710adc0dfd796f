import type { Definition, Values } from '../../core/definition/definition.ts'
import type { LayerKind } from '../../core/layers/order.ts'
import { checkOptionNames } from '../../core/problems/option-names.ts'
import type { Report } from '../../core/problems/report.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import type { ResolvedSetting } from '../../core/resolve/resolved-setting.ts'
import { displayValue } from '../../core/secret/display.ts'
import { watchFiles } from '../fs/watch-files.ts'
import { projectSources } from '../sources/project-sources.ts'
import { type Inspection, inspectSettings, printReport, reportOf, SOURCE_OPTIONS, type SourceOptions } from './load.ts'

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

/** Options of {@link watchSettings}. */
export interface WatchOptions extends SourceOptions {
  /**
   * Is called with the report if new values are wrong; the last good ones stay.
   * @default it is printed to standard error
   */
  readonly onProblems?: (report: Report) => void
}

const WATCH_OPTIONS = [...SOURCE_OPTIONS, 'onProblems'] as const

/** Settings that are looked after. */
export interface WatchedSettings<D extends Definition> {
  /** The last good values. */
  readonly current: Values<D>
  /** Ends the watching, so that the process can end. */
  readonly stop: () => void
}

/**
 * Loads settings and reads them again whenever a layer file changes, comes or goes.
 *
 * @param onChange is given the new values and what is different; not called where nothing is
 * @throws {SettingsError} where the settings are wrong to begin with
 * @example
 * ```ts
 * const settings = watchSettings(definition, (now, changes) => {
 *   for (const { name, before, after } of changes) console.log(`${name}: ${before} is ${after} now`)
 *   open(now.night.places)
 * })
 * settings.current.night.places
 * ```
 */
export function watchSettings<D extends Definition>(
  definition: D,
  onChange: (settings: Values<D>, changes: readonly SettingChange[]) => void,
  options: WatchOptions = {},
): WatchedSettings<D> {
  const { onProblems = printReport } = options
  checkOptionNames(options, WATCH_OPTIONS, 'watchSettings')
  const { onProblems: _, ...sources } = options
  let last = inspectSettings(definition, sources)
  if (last.values === null) throw new SettingsError(reportOf(last))
  let current = last.values
  // Fixed now: the program may go on to another directory.
  const { root, stage } = last

  const look = (): void => {
    const next = inspectSettings(definition, { ...sources, root, stage })
    if (next.values === null) {
      onProblems({ ...reportOf(next), title: `Settings for ${next.stage} changed, and the last good values stay` })
      return
    }
    const changes = changesBetween(last, next)
    last = next
    if (changes.length === 0) return
    current = next.values
    onChange(current, changes)
  }
  const { directory = definition.directory } = options
  const watched = projectSources(definition, root, directory, {}).sources
  const pathsOf = (kind: LayerKind) =>
    watched.filter((each) => each.kind === kind).flatMap((each) => each.paths?.(stage) ?? [])
  const stop = watchFiles(pathsOf('file'), pathsOf('directory'), look)
  return {
    get current() {
      return current
    },
    stop,
  }
}

function changesBetween(before: Inspection, after: Inspection): SettingChange[] {
  return after.settings.flatMap((now, index) => {
    const old = before.settings[index]!
    if (now.text === old.text) return []
    const { path: setting, name } = now.declaration
    return [{ path: setting, name, before: shown(old), after: shown(now) }]
  })
}

function shown({ text, masked }: ResolvedSetting): string | null {
  return text === undefined ? null : displayValue(text, { secret: masked })
}
