import type { Problem } from './problem.ts'
import { formatReport, type Report } from './report.ts'

/** Marks the error, also across two copies of this package in one program. */
const SETTINGS_ERROR = Symbol.for('mappa.settings-error')

/**
 * Everything that is wrong with the settings of a program, at once.
 *
 * `problems` holds it as data; `message` is the whole report for a person. There is no stack: where the program
 * asked for its settings says nothing about what is wrong with them.
 *
 * @example
 * ```ts
 * try {
 *   loadSettings(definition)
 * } catch (error) {
 *   if (error instanceof SettingsError) for (const each of error.problems) log(each.code, each.message)
 * }
 * ```
 */
export class SettingsError extends Error {
  readonly [SETTINGS_ERROR] = true
  readonly #report: Report

  /** @param report what is wrong, and in which stage */
  constructor(report: Report) {
    super(formatReport(report))
    this.#report = report
    Object.defineProperty(this, SETTINGS_ERROR, { enumerable: false })
    // Own properties are printed when an error ends a program, so there is none but what a person should read.
    Object.defineProperty(this, 'stack', {
      value: `SettingsError: ${this.message}`,
      enumerable: false,
      configurable: true,
      writable: true,
    })
  }

  override get name(): string {
    return 'SettingsError'
  }

  /** The report alone for `console.log` and `util.inspect` of Node, whatever others have added to the error. */
  [Symbol.for('nodejs.util.inspect.custom')](): string {
    return `SettingsError: ${this.message}`
  }

  /** What is wrong, errors and notices. */
  get problems(): readonly Problem[] {
    return this.#report.problems
  }

  /** The stage that was checked, or `null` where the fault lies before any. */
  get stage(): string | null {
    return this.#report.stage
  }

  /** All that the report is made from. */
  get report(): Report {
    return this.#report
  }
}

/** True for a {@link SettingsError}, also one of another copy of this package. */
export function isSettingsError(error: unknown): error is SettingsError {
  return typeof error === 'object' && error !== null && SETTINGS_ERROR in error
}

/** The error about one problem that lies before any stage, such as a file that can't be written. */
export function settingsError(problem: Problem): SettingsError {
  return new SettingsError({ title: 'Settings', stage: null, problems: [problem] })
}
