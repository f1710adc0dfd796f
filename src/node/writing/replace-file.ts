import { fs, path } from '../builtin.ts'

/**
 * Puts a file in the place of another, so that whoever reads it meets the old text or the new one, never a part,
 * also when the machine stops in between. The mode and the owner stay.
 *
 * The draft lies beside the file, and where that ends in `.local` so does the draft: git ignores both by one rule, so
 * that nothing of a secret can be committed when a program is ended in the middle.
 *
 * @param target the whole path of the file, no link
 * @param text the new text
 * @param newMode the permission bits of a file that does not exist yet; what the system gives if left out
 * @throws what the operating system reports; the old file is untouched then
 */
export function replaceFile(target: string, text: string, newMode = 0o666): void {
  const draft = writeDraft(target, text, newMode)
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
 * @returns its whole path
 * @throws what the operating system reports; nothing is left behind then
 */
export function writeDraft(target: string, text: string, newMode = 0o666): string {
  const old = fs.statSync(target, { throwIfNoEntry: false })
  const draft = draftOf(target)
  const file = fs.openSync(draft, 'wx', old === undefined ? newMode : old.mode & 0o777)
  try {
    fs.writeFileSync(file, text)
    if (old !== undefined) keepRights(file, old)
    fs.fsyncSync(file)
  } catch (error) {
    fs.rmSync(draft, { force: true })
    throw error
  } finally {
    fs.closeSync(file)
  }
  return draft
}

function draftOf(target: string): string {
  const { dir, name, ext } = path.parse(target)
  return path.join(dir, `${name}.draft-${process.pid}${ext === '' ? '' : ext}`)
}

/** A user who may write a file may not always give it away; the text matters more. */
function keepRights(file: number, old: { mode: number; uid: number; gid: number }): void {
  fs.fchmodSync(file, old.mode & 0o777)
  try {
    fs.fchownSync(file, old.uid, old.gid)
  } catch {}
}
