import { EnvDocument } from '@mappa/core/envfile/document'
import { writingProblem } from '@mappa/core/problems/catalogue/writing'
import { hasErrors } from '@mappa/core/problems/problem'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from './builtin.ts'
import { mustBeRegular } from './regular-file.ts'
import { removeOldDrafts, writeDraft } from './replace-file.ts'
import { getTarget, mustBeReplaceable, toProblem } from './replaceable.ts'

/** What became of a file. */
export interface Updated {
  readonly created: boolean
  readonly changed: boolean
  /** True where others could read the file before, and no longer can. */
  readonly tightened: boolean
}

/** Options of {@link updateFile}. */
export interface UpdateOptions {
  /** The permission bits of a file that does not exist yet; what the system gives if left out. */
  readonly newMode?: number
  /** True where only the owner may read the file afterwards. */
  readonly ownerOnly?: boolean
}

/** For files that hold secrets: only their owner can read them. */
export const SECRET_MODE = 0o600

/**
 * Changes a file as a whole: it is always either old or new, its mode stays, and a link stays a link to the file
 * that is changed. Two that change the same file at once wait for each other.
 *
 * @param file the absolute path
 * @param change is given the text, or `null` where there is no file, and returns the new text
 * @throws {SettingsError} where the file can't be changed; nothing has changed then
 */
export async function updateFile(
  file: string,
  change: (before: string | null) => string,
  options: UpdateOptions = {},
): Promise<Updated> {
  const target = getTarget(file)
  mustBeReplaceable(target, file)
  const release = await lock(target)
  try {
    removeOldDrafts(target, 0)
    // Somebody who takes no lock, an editor for example, may save in between: then it is done again with that text.
    for (let attempt = 0; attempt < MAX_ATTEMPTS; attempt++) {
      const before = readText(target, file)
      const after = change(before)
      const tightened = options.ownerOnly === true && before !== null && isOpenToOthers(target)
      if (after === before && !tightened) return { created: false, changed: false, tightened: false }
      const draft = writeDraft(target, after, options)
      if (readText(target, file) === before) {
        fs.renameSync(draft, target)
        return { created: before === null, changed: after !== before, tightened }
      }
      fs.rmSync(draft, { force: true })
    }
    const why = writingProblem('file-changed', { file }, { file })
    throw settingsError(why)
  } catch (error) {
    throw toProblem(error, file)
  } finally {
    await release()
  }
}

const MAX_ATTEMPTS = 5

function isOpenToOthers(target: string): boolean {
  return process.platform !== 'win32' && (fs.statSync(target).mode & 0o077) !== 0
}

/** Keeps others from changing a file; what is given back lets them again. */
export async function lock(target: string): Promise<() => Promise<void>> {
  try {
    // Told at once: whoever can't write here can't later either.
    fs.accessSync(path.dirname(target), fs.constants.W_OK)
    clearLock(target)
    // Loaded only when something is written: commands that only read never need it.
    const { lock: lockFile } = await import('proper-lockfile')
    return await lockFile(target, {
      realpath: false,
      stale: STALE_MS,
      update: STALE_MS / 3,
      // About a minute: many may wait in a row.
      retries: { retries: 600, factor: 1.2, minTimeout: 5, maxTimeout: 100, randomize: true },
      // What was read is compared again before it is replaced, so a lock that was lost for a moment loses nothing.
      onCompromised: () => {},
    })
  } catch (error) {
    throw toProblem(error, target)
  }
}

/** A lock that nobody has renewed for so long belongs to a program that was ended. */
const STALE_MS = 3000

/** Takes away what is no lock that anybody holds, and would be waited for in vain. */
function clearLock(target: string): void {
  const file = `${target}.lock`
  const stats = fs.lstatSync(file, { throwIfNoEntry: false })
  if (stats === undefined) return
  if (!stats.isDirectory()) {
    const why = writingProblem('lock-in-the-way', { file }, { file })
    throw settingsError(why)
  }
  // From a clock that ran ahead; it would not become old for as long. A lock is an empty directory: another one is no lock, and stays.
  if (stats.mtimeMs > Date.now() + STALE_MS) {
    try {
      fs.rmdirSync(file)
    } catch {
      throw settingsError(writingProblem('lock-in-the-way', { file }, { file }))
    }
  }
}

/** The text of a file, refusing what would not come through unharmed. */
export function readText(target: string, file: string): string | null {
  if (!fs.existsSync(target)) return null
  mustBeRegular(target, file)
  const document = EnvDocument.fromBytes(fs.readFileSync(target), { file: path.basename(file) })
  const unreadable = document.problems.filter((each) => UNREADABLE.has(each.code))
  if (hasErrors(unreadable)) throw new SettingsError({ title: 'Settings', stage: null, problems: unreadable })
  return String(document)
}

const UNREADABLE: ReadonlySet<string> = new Set(['nul-byte', 'not-utf8', 'utf16-text', 'file-too-large'])
