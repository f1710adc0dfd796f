import { fs, path } from './builtin.ts'
import { readRegularText } from './regular-file.ts'
import { updateFile } from './update-file.ts'

/** How a derived file was found, and what was done about it. */
export interface DerivedState {
  /** True where the file was as it should be before anything was written. */
  readonly right: boolean
  /** The text that was there; `null` where there was no file. */
  readonly before: string | null
  /** The text that belongs there. */
  readonly after: string
  readonly written: boolean
}

/**
 * Brings a file that derives from the definition up to date. One that is right already is not touched, so that nothing
 * that watches it is woken.
 *
 * @param file the absolute path
 * @param text what belongs in it; line ends are those of the file that is there
 * @param verify true to find out only
 */
export async function writeDerived(file: string, text: string, verify: boolean): Promise<DerivedState> {
  const before = readRegularText(file)
  const after = before?.includes('\r\n') ? text.replaceAll('\n', '\r\n') : text
  const right = before === after
  if (!right && !verify) {
    fs.mkdirSync(path.dirname(file), { recursive: true })
    await updateFile(file, () => after)
  }
  return { right, before, after, written: !right && !verify }
}
