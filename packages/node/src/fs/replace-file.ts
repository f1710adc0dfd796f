import { fs, path } from './builtin.ts'

/** Loaded when something is written: it takes a twentieth of the start of a program, and most only read. */
const crypto = () => process.getBuiltinModule('node:crypto')

/** How a file is replaced. */
export interface ReplaceOptions {
  /** The permission bits of a file that does not exist yet; what the system gives if left out. */
  readonly newMode?: number
  /** True where only the owner may read the file afterwards, whatever its mode was. */
  readonly ownerOnly?: boolean
  /**
   * False to leave it to the system when the text reaches the disk, for a file that can be made again.
   * @default true
   */
  readonly sync?: boolean
}

/**
 * Puts a file in the place of another, so that whoever reads it meets the old text or the new one, never a part,
 * also when the machine stops in between. The mode and the owner stay.
 *
 * @param target the absolute path of the file, no link
 * @param text the new text
 * @throws what the operating system reports; the old file is untouched then
 */
export function replaceFile(target: string, text: string, options: ReplaceOptions = {}): void {
  const draft = writeDraft(target, text, options)
  try {
    fs.renameSync(draft, target)
  } catch (error) {
    fs.rmSync(draft, { force: true })
    throw error
  }
}

/**
 * Writes the draft that is to take the place of a file, so that only its name has to change.
 *
 * @returns its absolute path
 * @throws what the operating system reports; nothing is left behind then
 */
export function writeDraft(
  target: string,
  text: string,
  { newMode = 0o666, ownerOnly, sync = true }: ReplaceOptions = {},
): string {
  const old = fs.statSync(target, { throwIfNoEntry: false })
  const draft = `${draftPrefix(target)}${crypto().randomBytes(8).toString('hex')}.local`
  const mode = (old === undefined ? newMode : old.mode & 0o777) & (ownerOnly === true ? 0o700 : 0o777)
  const file = fs.openSync(draft, 'wx', mode)
  try {
    fs.writeFileSync(file, text)
    if (old !== undefined) keepRights(file, old, mode)
    if (sync) fs.fsyncSync(file)
  } catch (error) {
    fs.rmSync(draft, { force: true })
    throw error
  } finally {
    fs.closeSync(file)
  }
  return draft
}

/**
 * Removes the drafts of a file that a program left which was ended in the middle.
 *
 * @param age how long nobody may have written to them, in milliseconds; 0 is for whoever holds the lock of the file, since a draft of
 * somebody at work would go as well
 */
export function removeOldDrafts(target: string, age: number): void {
  const prefix = path.basename(draftPrefix(target))
  const directory = path.dirname(target)
  for (const name of fs.readdirSync(directory)) {
    const draft = path.join(directory, name)
    if (!name.startsWith(prefix)) continue
    const stats = fs.lstatSync(draft, { throwIfNoEntry: false })
    if (stats !== undefined && stats.mtimeMs <= Date.now() - age) fs.rmSync(draft, { force: true })
  }
}

/**
 * What the names of all drafts of a file begin with. They lie beside it, since only there a change of name is all or nothing, and
 * are called like files of one machine, whatever they are drafts of: git ignores those, and no tool takes them for a source.
 */
function draftPrefix(target: string): string {
  const { dir, base } = path.parse(target)
  return path.join(dir, `.env.mappa-draft-${crypto().createHash('sha256').update(base).digest('hex').slice(0, 12)}-`)
}

/** A user who may write a file may not always give it away; the text matters more. */
function keepRights(file: number, old: { uid: number; gid: number }, mode: number): void {
  fs.fchmodSync(file, mode)
  try {
    fs.fchownSync(file, old.uid, old.gid)
  } catch {}
}
