import { EnvDocument } from '../../core/envfile/document.ts'
import { writingProblem } from '../../core/problems/of-commands.ts'
import { hasErrors, problem } from '../../core/problems/problem.ts'
import { SettingsError } from '../../core/problems/settings-error.ts'
import { fs, path } from '../builtin.ts'
import { loadLocking } from './packages.ts'
import { replaceFile } from './replace-file.ts'

/** What became of a file. */
export interface Updated {
  readonly created: boolean
  readonly changed: boolean
}

/** Options of {@link updateFile}. */
export interface UpdateOptions {
  /** The permission bits of a file that does not exist yet; what the system gives if left out. */
  readonly newMode?: number
}

/** For files that hold secrets: only their owner can read them. */
export const SECRET_MODE = 0o600

/**
 * Changes a file as a whole: it is always either old or new, its mode stays, and a link stays a link to the file
 * that is changed. Two that change the same file at once wait for each other.
 *
 * @param file the whole path
 * @param change is given the text, or `null` where there is no file, and gives back the new text
 * @throws {SettingsError} where the file can't be changed; nothing has changed then
 */
export async function updateFile(
  file: string,
  change: (before: string | null) => string,
  { newMode }: UpdateOptions = {},
): Promise<Updated> {
  const target = targetOf(file)
  const release = await lock(target)
  try {
    const before = readText(target, file)
    const after = change(before)
    if (after === before) return { created: false, changed: false }
    replaceFile(target, after, newMode)
    return { created: before === null, changed: true }
  } catch (error) {
    throw asProblem(error, file)
  } finally {
    await release()
  }
}

/** Changes an env file, with what `updateFile` promises. */
export function updateEnvFile(
  file: string,
  change: (before: EnvDocument) => EnvDocument,
  options: UpdateOptions = {},
): Promise<Updated> {
  const name = path.basename(file)
  return updateFile(file, (before) => String(change(EnvDocument.from(before ?? '', { file: name }))), options)
}

/** The file itself, where the path is a link to it. */
export function targetOf(file: string): string {
  try {
    return fs.realpathSync(file)
  } catch {
    if (fs.lstatSync(file, { throwIfNoEntry: false }) === undefined) return file
    throw new SettingsError({
      title: 'Settings',
      stage: null,
      problems: [problem('file-link-broken', { file }, { file })],
    })
  }
}

/** Keeps others from changing a file; what is given back lets them again. */
export async function lock(target: string): Promise<() => Promise<void>> {
  try {
    // Told at once: whoever can't write here can't later either.
    fs.accessSync(path.dirname(target), fs.constants.W_OK)
    const retries = { retries: 60, minTimeout: 10, maxTimeout: 250 }
    return await loadLocking().lock(target, { realpath: false, stale: 10_000, retries })
  } catch (error) {
    throw asProblem(error, target)
  }
}

/** The text of a file, refusing what would not come through unharmed. */
export function readText(target: string, file: string): string | null {
  if (!fs.existsSync(target)) return null
  const document = EnvDocument.fromBytes(fs.readFileSync(target), { file: path.basename(file) })
  const unreadable = document.problems.filter((each) => UNREADABLE.has(each.code))
  if (hasErrors(unreadable)) throw new SettingsError({ title: 'Settings', stage: null, problems: unreadable })
  return String(document)
}

const UNREADABLE: ReadonlySet<string> = new Set(['nul-byte', 'not-utf8', 'utf16-text', 'file-too-large'])

/** What the operating system reported, as a problem of a file. */
export function asProblem(error: unknown, file: string): unknown {
  if (error instanceof SettingsError) return error
  const { code, message } = error as NodeJS.ErrnoException
  if (code === undefined) return error
  const why =
    code === 'ELOCKED'
      ? writingProblem('file-busy', { file }, { file })
      : code === 'EISDIR'
        ? problem('file-is-folder', { file }, { file })
        : writingProblem('file-unwritable', { file, reason: message.replace(/,.*$/s, '') }, { file })
  return new SettingsError({ title: 'Settings', stage: null, problems: [why] })
}
