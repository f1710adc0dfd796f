import { writingProblem } from '@mappa/core/problems/catalogue/writing'
import { settingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '@mappa/node/fs/builtin'
import { removeOldDrafts, replaceFile, writeDraft } from '@mappa/node/fs/replace-file'
import { getTarget, mustBeReplaceable, toProblem } from '@mappa/node/fs/replaceable'
import { lock, readText } from '@mappa/node/fs/update-file'

/** A file that is to change. */
export interface FileChange {
  /** Its path, relative to the root. */
  readonly file: string
  /** The text that it was seen to have; `null` where there was no file. */
  readonly before: string | null
  readonly after: string
  /** The permission bits of a new file; what the system gives if left out. */
  readonly newMode?: number
  /** True where only the owner may read the file afterwards. */
  readonly ownerOnly?: boolean
}

/** How files are changed. */
export interface UpdateFilesOptions {
  /**
   * True for files that can be made again: nothing waits for others who write them, or for the disk.
   * @default false
   */
  readonly canBeMadeAgain?: boolean
}

/** A change on its way: the file itself, and the draft that waits to take its place. */
interface Pending extends FileChange {
  readonly target: string
  readonly draft: string
}

/**
 * Changes several files, or none. Every new text is written beside its file first; then the files change their names in
 * the order given, which takes no time. Where one fails, those before it are put back. A program that is ended in between
 * leaves each file old or new, the earlier ones new.
 *
 * @throws {SettingsError} where a file has changed since it was checked, or can't be written; nothing has changed then
 */
export async function updateFiles(
  root: string,
  changes: readonly FileChange[],
  { canBeMadeAgain = false }: UpdateFilesOptions = {},
): Promise<void> {
  const targets = changes.map(({ file }) => getTarget(path.join(root, file)))
  const releases: (() => Promise<void>)[] = []
  const pending: Pending[] = []
  try {
    // Always in one order, so that two that want the same files never wait for each other.
    for (const target of [...new Set(targets)].sort()) {
      fs.mkdirSync(path.dirname(target), { recursive: true })
      if (!canBeMadeAgain) releases.push(await lock(target))
    }
    for (const [index, change] of changes.entries()) {
      mustBeReplaceable(targets[index]!, change.file)
      mustBeAsSeen(targets[index]!, change)
    }
    // Those of somebody at work stay where nobody holds a lock.
    if (!canBeMadeAgain) for (const target of new Set(targets)) removeOldDrafts(target, 0)
    for (const [index, change] of changes.entries())
      pending.push(drafted(targets[index]!, { ...change, sync: !canBeMadeAgain }))
    exchange(pending)
  } finally {
    for (const { draft } of pending) fs.rmSync(draft, { force: true })
    for (const release of releases) await release()
  }
}

function drafted(target: string, change: FileChange & { readonly sync: boolean }): Pending {
  try {
    return { ...change, target, draft: writeDraft(target, change.after, change) }
  } catch (error) {
    throw toProblem(error, change.file)
  }
}

/** Puts every draft in its place. Without a pause, so that no signal gets in between. */
function exchange(pending: readonly Pending[]): void {
  for (const [index, { draft, target, file }] of pending.entries()) {
    try {
      // Again, and right before: an editor that saves in between takes no lock.
      mustBeAsSeen(target, pending[index]!)
      fs.renameSync(draft, target)
    } catch (error) {
      for (const each of pending.slice(0, index).reverse()) putBack(each)
      throw toProblem(error, file)
    }
  }
}

function putBack({ target, before }: Pending): void {
  if (before === null) fs.rmSync(target, { force: true })
  else replaceFile(target, before)
}

function mustBeAsSeen(target: string, { file, before }: FileChange): void {
  if (readText(target, file) === before) return
  const why = writingProblem('file-changed', { file }, { file })
  throw settingsError(why)
}
