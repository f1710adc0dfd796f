import { createHash, randomBytes } from 'node:crypto'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '@mappa/node/fs/builtin'
import { leadsOutside, toRelativePath } from '@mappa/node/fs/places'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { SECRET_MODE } from '@mappa/node/fs/update-file'
import { readCommitted } from '@mappa/node/git/git'
import { ensureIgnored } from '@mappa/node/git/ignore-rules'
import { cacheFile, readOwn, writeOwn } from './own-cache.ts'
import { updateFiles } from './update-files.ts'

/** A file that Mappa makes from values. */
export interface Output {
  /** Its path, relative to the root, with `/` between directories. */
  readonly file: string
  readonly text: string
  /** True if only its owner may read it. */
  readonly ownerOnly: boolean
  /** The rule by which git is to ignore it; `null` if it holds no secret. */
  readonly ignoreRule: string | null
}

/** An output and how it was found. */
export interface OutputState extends Output {
  /** The text that was there; `null` if there was no file. */
  readonly before: string | null
  /** True if it had the right text already. */
  readonly isCurrent: boolean
}

/**
 * The path of an output, relative to the root.
 *
 * @param given the path as it was given, relative to the current directory
 * @throws {SettingsError} if it lies outside the project
 */
export function outputPath(root: string, given: string): string {
  const file = toRelativePath(root, path.resolve(given))
  if (file !== '' && !leadsOutside(file)) return file
  throw refusal([commandProblem('output-outside', { file: given, root }, { file: given })])
}

/**
 * Compares outputs with what is there.
 *
 * @throws {SettingsError} if two have one name, or one can't be where it is to be
 */
export function inspectOutputs(root: string, outputs: readonly Output[]): readonly OutputState[] {
  const problems = [...sameFiles(outputs), ...outputs.flatMap(({ file }) => linkProblems(root, file))]
  if (problems.length > 0) throw refusal(problems)
  return outputs.map((each) => {
    const before = readRegularText(path.join(root, each.file), each.file)
    return { ...each, before, isCurrent: before === each.text }
  })
}

/**
 * Writes outputs: all of them, or none. A file that somebody changed by hand is not overwritten, and neither is one that Mappa did not
 * make, unless git has its text.
 *
 * @param force true to overwrite those too
 * @throws {SettingsError} if one can't be written; nothing was written then
 */
export async function writeOutputs(
  root: string,
  outputs: readonly Output[],
  force: boolean,
): Promise<readonly OutputState[]> {
  const states = inspectOutputs(root, outputs)
  const record = readRecord(root)
  const edited = states.filter((each) => !each.isCurrent && !force && !isReplaceable(root, each, record))
  if (edited.length > 0) throw refusal(edited.map(({ file }) => commandProblem('output-edited', { file }, { file })))
  await ignoreOutputs(root, states)
  await updateFiles(
    root,
    states
      .filter((each) => !each.isCurrent || (each.ownerOnly && isOpen(root, each.file)))
      .map(({ file, before, text, ownerOnly }) => ({
        file,
        before,
        after: text,
        ...(ownerOnly ? { newMode: SECRET_MODE, ownerOnly: true } : {}),
      })),
    { canBeMadeAgain: true },
  )
  writeRecord(root, record, states)
  return states
}

/** Has git ignore what holds secrets, before it is there. */
async function ignoreOutputs(root: string, outputs: readonly Output[]): Promise<void> {
  const byRule = new Map<string, string>()
  for (const { file, ignoreRule } of outputs) if (ignoreRule !== null) byRule.set(ignoreRule, file)
  for (const [rule, file] of byRule) await ensureIgnored(root, file, rule)
}

function refusal(problems: readonly Problem[]): SettingsError {
  return new SettingsError({ title: 'Nothing was written', stage: null, problems })
}

function sameFiles(outputs: readonly Output[]): readonly Problem[] {
  const files = outputs.map(({ file }) => file)
  const twice = new Set(files.filter((file, index) => files.indexOf(file) !== index))
  return [...twice].map((file) => commandProblem('output-twice', { file }, { file }))
}

/** A link could lead anywhere; also one that is a directory on the way, out of the project. */
export function linkProblems(root: string, file: string): readonly Problem[] {
  const parts = file.split('/')
  for (let length = 1; length <= parts.length; length++) {
    const part = parts.slice(0, length).join('/')
    const stats = fs.lstatSync(path.join(root, part), { throwIfNoEntry: false })
    if (stats === undefined) return []
    if (stats.isSymbolicLink()) return [commandProblem('output-is-link', { file: part }, { file })]
    if (length < parts.length && !stats.isDirectory())
      return [commandProblem('output-below-file', { file, part }, { file })]
  }
  return []
}

function isOpen(root: string, file: string): boolean {
  return process.platform !== 'win32' && (fs.statSync(path.join(root, file)).mode & 0o077) !== 0
}

/** What was written before, by file: a digest of the text, with a random text before it so that no value can be looked up. */
type Record = Readonly<{ [file: string]: { readonly salt: string; readonly digest: string } }>

function isReplaceable(root: string, { file, before }: OutputState, record: Record): boolean {
  if (before === null) return true
  const known = record[file]
  if (known !== undefined && digest(known.salt, before) === known.digest) return true
  // What is committed as it stands is not lost.
  return readCommitted(root, file)?.replaceAll('\r\n', '\n') === before.replaceAll('\r\n', '\n')
}

function digest(salt: string, text: string): string {
  return createHash('sha256').update(salt).update(text).digest('hex')
}

const RECORD = 'outputs'

function readRecord(root: string): Record {
  try {
    const found: unknown = JSON.parse(readOwn(cacheFile(root, RECORD)) ?? '{}')
    return typeof found === 'object' && found !== null ? (found as Record) : {}
  } catch {
    return {}
  }
}

function writeRecord(root: string, record: Record, states: readonly OutputState[]): void {
  const fresh = states.map(({ file, text }) => {
    const salt = randomBytes(16).toString('hex')
    return [file, { salt, digest: digest(salt, text) }]
  })
  writeOwn(cacheFile(root, RECORD), JSON.stringify({ ...record, ...Object.fromEntries(fresh) }))
}
