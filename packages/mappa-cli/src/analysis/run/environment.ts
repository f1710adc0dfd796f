import { runningProblem } from '@mappa/core/problems/catalogue/running'
import type { Problem } from '@mappa/core/problems/problem'
import { readFilled, writeFilled } from '@mappa/node/load/filled-environment'
import type { Inspection } from '@mappa/node/load/inspect'

/** Variables of an environment, by name. */
export type Variables = Readonly<Record<string, string | undefined>>

/** What a process needs to live: programs, home, language, terminal, temporary files; and on Windows its own. */
const NEEDED: readonly RegExp[] = [
  /^(?:PATH|HOME|TZ|TMPDIR|TMP|TEMP)$/,
  /^(?:LANG|LANGUAGE|LC_[A-Z]+)$/,
  /^(?:TERM|COLORTERM|COLUMNS|LINES|NO_COLOR|FORCE_COLOR)$/,
]
const NEEDED_ON_WINDOWS: readonly RegExp[] = [
  /^(?:Path|PATHEXT|ComSpec|SystemRoot|SystemDrive|windir|USERPROFILE|APPDATA|LOCALAPPDATA)$/i,
]

/**
 * The environment that a command gets: what this process has, with the values of the stage laid over it. `MAPPA_STAGE` names the stage, so
 * that a program that loads its settings by itself loads the same ones; `MAPPA_FILLED` names what was laid over, so that one that loads
 * those of another stage does not take it for its own.
 *
 * @param inspection the settings of the stage, without errors
 * @param own the environment of this process
 * @param onlyDeclared true to pass on nothing but declared settings and what a process needs to live
 * @param platform the system, as in `process.platform`
 */
export function buildEnvironment(
  { stage, settings }: Pick<Inspection, 'stage' | 'settings'>,
  own: Variables,
  onlyDeclared: boolean,
  platform: string = process.platform,
): Variables {
  const needed = platform === 'win32' ? [...NEEDED, ...NEEDED_ON_WINDOWS] : NEEDED
  const filled = readFilled(own)
  const declared = new Set(settings.map(({ declaration }) => declaration.name))
  const foreign = new Set(filled.stage === stage ? [] : filled.names.filter((name) => declared.has(name)))
  const passedOn = Object.entries(own).filter(
    ([name]) => !foreign.has(name) && (!onlyDeclared || needed.some((each) => each.test(name))),
  )
  const values = settings.flatMap(({ declaration, text }): [string, string][] =>
    text === undefined ? [] : [[declaration.name, text]],
  )
  const added = settings.flatMap(({ declaration: { name }, text, origin }) =>
    text === undefined || own[name] === text ? [] : [{ name, layer: origin?.layer ?? null }],
  )
  return {
    ...Object.fromEntries(passedOn),
    ...Object.fromEntries(values),
    MAPPA_STAGE: stage,
    MAPPA_FILLED: writeFilled(own, stage, added),
  }
}

/** A problem for each value that no environment can hold: a NUL ends a text there. */
export function findUnfitVariables({ settings, stage }: Pick<Inspection, 'stage' | 'settings'>): Problem[] {
  return settings.flatMap(({ declaration: { name, path }, text, origin }) => {
    if (text === undefined || !text.includes('\0')) return []
    const { file = null, line = null, column = null } = origin ?? {}
    return [runningProblem('value-has-nul', { name }, { name, setting: path, stage, file, line, column })]
  })
}
