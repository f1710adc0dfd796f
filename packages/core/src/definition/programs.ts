import { problem } from '../problems/problem.ts'
import type { Reporter } from '../problems/reporter.ts'
import { SettingsError } from '../problems/settings-error.ts'
import { makeClosestMatch } from '../text/closest-match.ts'
import { listConditions } from './conditions.ts'
import type { Declaration, Definition } from './definition.ts'

/**
 * Reads the option `programs` of a definition.
 *
 * @param reporter is told where it is no list of names
 */
export function readPrograms(given: unknown, reporter: Reporter): readonly string[] {
  const isName = (each: unknown) => typeof each === 'string' && /^[A-Za-z][\w-]*$/.test(each)
  if (Array.isArray(given) && given.every(isName) && new Set(given).size === given.length) return [...given]
  reporter.report(problem('programs-wrong', {}))
  return []
}

/**
 * Checks what settings say of the programs that need them.
 *
 * @param reporter is told of programs that there are not, and of conditions that a program can't decide
 */
export function checkPrograms(settings: readonly Declaration[], programs: readonly string[], reporter: Reporter): void {
  for (const { path, programs: own } of settings) {
    for (const program of own ?? []) {
      if (programs.includes(program)) continue
      const near = makeClosestMatch(programs)(program)
      reporter.report(problem('setting-program-unknown', { path, program, programs, near }, { setting: path }))
    }
  }
  const needing = settings.filter((each) => listConditions(each).length > 0)
  for (const program of programs) {
    const left = new Set(settings.flatMap((each) => (isOfProgram(each, program) ? [] : [each.path])))
    for (const each of needing.filter(({ path }) => !left.has(path))) {
      for (const { rule, other } of listConditions(each).filter((condition) => left.has(condition.other))) {
        const details = { path: each.path, rule, other, program }
        reporter.report(problem('condition-of-other-program', details, { setting: each.path }))
      }
    }
  }
}

function isOfProgram({ programs }: Declaration, program: string): boolean {
  return programs === null || programs.includes(program)
}

/** The definition of each program, made once. */
const narrowed = new WeakMap<Definition, Map<string, Definition>>()

/**
 * A definition with the settings of one program alone. The names of the others stay known, and what is secret of them stays so. A rule
 * between settings holds where the program has all of them.
 *
 * @param program its name; everything if left out
 * @param from what names it, for the message
 * @throws {SettingsError} where the definition has no such program
 */
export function selectProgram<D extends Definition>(definition: D, program: string | undefined, from: string): D {
  if (program === undefined || program === definition.program) return definition
  const { programs } = definition
  if (!programs.includes(program)) {
    const near = makeClosestMatch(programs)(String(program))
    const details = { program: JSON.stringify(String(program).slice(0, 80)), from, programs, near }
    throw new SettingsError({ title: 'Settings', stage: null, problems: [problem('program-unknown', details)] })
  }
  const known = narrowed.get(definition) ?? new Map<string, Definition>()
  narrowed.set(definition, known)
  const found = known.get(program) ?? narrow(definition, program)
  known.set(program, found)
  return found as D
}

function narrow(definition: Definition, program: string): Definition {
  const all = [...definition.settings, ...definition.elsewhere]
  const settings = all.filter((each) => isOfProgram(each, program))
  const paths = new Set(settings.map(({ path }) => path))
  return Object.freeze({
    ...definition,
    program,
    settings: Object.freeze(settings),
    elsewhere: Object.freeze(all.filter(({ path }) => !paths.has(path))),
    rules: Object.freeze(definition.rules.filter((rule) => rule.paths.every((path) => paths.has(path)))),
  })
}
