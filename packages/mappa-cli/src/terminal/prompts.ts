import { randomBytes } from 'node:crypto'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { type SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import type { OpenSecret } from '../analysis/init/relocate.ts'
import { answered } from './interrupted.ts'

/**
 * Asks for a value at the terminal without showing what is typed.
 *
 * @throws {SettingsError} where the question was left unanswered, with Ctrl+C for example
 */
export async function readHidden(question: string): Promise<string> {
  const { password } = await import('@inquirer/prompts')
  return answered(() => password({ message: question }, { output: process.stderr }), unanswered)
}

/** A value to ask for. */
export interface ValueQuestion {
  readonly name: string
  /** True to hide what is typed. */
  readonly secret: boolean
  /** What is wrong with an answer; `null` where nothing is. */
  readonly check: (text: string) => string | null
}

/**
 * Asks for a value at the terminal, again and again until it is valid.
 *
 * @returns the value; an empty text where nothing was typed, to skip it
 * @throws {SettingsError} where the question was left unanswered
 */
export async function askForValue({ name, secret, check }: ValueQuestion): Promise<string> {
  const { input, password } = await import('@inquirer/prompts')
  const question = { message: name, validate: (text: string) => text === '' || (check(text) ?? true) }
  const context = { output: process.stderr }
  return answered(() => (secret ? password(question, context) : input(question, context)), unanswered)
}

/** Reads a value from standard input. One line end at its end is no part of it. */
export async function readStandardInput(): Promise<string> {
  const pieces: Buffer[] = []
  for await (const piece of process.stdin) pieces.push(piece as Buffer)
  return Buffer.concat(pieces)
    .toString('utf8')
    .replace(/\r?\n$/, '')
}

/**
 * Makes up a value.
 *
 * @param bytes how many random bytes, 1 to 1024, in digits
 * @returns the bytes as base64url (RFC 4648, section 5), about 4 characters for 3 of them
 * @throws {SettingsError} where the number is none
 */
export function readRandom(bytes: string): string {
  const count = /^[1-9][0-9]{0,3}$/.test(bytes) ? Number(bytes) : 0
  if (count < 1 || count > 1024) {
    throw settingsError(commandProblem('random-wrong', {}))
  }
  return randomBytes(count).toString('base64url')
}

/**
 * Asks for the stages of a project at the terminal.
 *
 * @param proposed what is taken where nothing else is typed
 * @param isGood tells a name that a stage can have
 * @throws {SettingsError} where the question was left unanswered
 */
export async function askForStages(
  proposed: readonly string[],
  isGood: (name: string) => boolean,
): Promise<readonly string[]> {
  const { input } = await import('@inquirer/prompts')
  const findNames = (text: string) => text.split(/[\s,]+/).filter((name) => name !== '')
  return answered(async () => {
    const answer = await input({
      message: 'Stages, with the one for your own machine first',
      default: proposed.join(', '),
      validate: (text) => {
        const names = findNames(text)
        return (
          (names.length > 0 && names.every(isGood) && new Set(names).size === names.length) ||
          'Use lowercase letters, digits and -, separated by commas, each once.'
        )
      },
    })
    return findNames(answer)
  }, unanswered)
}

function unanswered(): SettingsError {
  return settingsError(commandProblem('value-not-given', {}))
}

/**
 * Asks at the terminal whether secrets may move into files that git ignores.
 *
 * @throws {SettingsError} where the question was left unanswered
 */
export async function askToMoveSecrets(secrets: readonly OpenSecret[]): Promise<boolean> {
  const { confirm } = await import('@inquirer/prompts')
  const names = secrets.map(({ name, from, to }) => `${name} (${from} to ${to})`).join(', ')
  return answered(
    () => confirm({ message: `Move secrets into files that git ignores: ${escapeInvisible(names)}?`, default: true }),
    unanswered,
  )
}

/** Asks whether the packages of a repository are set up as proposed. */
export async function askToSetUpPackages(count: number): Promise<boolean> {
  const { confirm } = await import('@inquirer/prompts')
  const message = `Set ${count === 1 ? 'this package' : `these ${count} packages`} up like this?`
  return answered(() => confirm({ message, default: true }), unanswered)
}
