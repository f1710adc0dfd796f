import type { Finding } from '../../core/survey/findings.ts'
import { fs, path } from '../builtin.ts'
import type { FileChange } from '../writing/update-files.ts'
import type { MovePlace } from './source-changes.ts'

/** Larger files are not searched, in bytes: 16 MiB. */
const LARGEST = 16 * 1024 * 1024

/**
 * Finds where secrets that move still stand afterwards, whatever the file is: in comments, documents, data, and in
 * languages that are not changed.
 *
 * @param files every file of the project that ignore rules do not leave out, by whole paths
 * @param changes what is going to be written
 */
export function leftoversOf(
  root: string,
  files: readonly string[],
  secrets: readonly Finding[],
  changes: readonly FileChange[],
): readonly MovePlace[] {
  const after = new Map(changes.map((each) => [each.file, each.after]))
  const found: MovePlace[] = []
  for (const whole of files) {
    const file = path.relative(root, whole).replaceAll('\\', '/')
    // Where secrets are at home.
    if (/(^|\/)\.env(\..+)?\.local$/.test(file)) continue
    const text = after.get(file) ?? read(whole)
    if (text === null) continue
    for (const finding of secrets) {
      for (const form of new Set([finding.value, JSON.stringify(finding.value).slice(1, -1)])) {
        for (let at = text.indexOf(form); at >= 0; at = text.indexOf(form, at + form.length)) {
          found.push({ finding, file, ...placeAt(text, at), obstacle: 'it stands outside of code that can be changed' })
        }
      }
    }
  }
  return found
}

function placeAt(text: string, at: number): { line: number; column: number } {
  const before = text.slice(0, at)
  return { line: before.split('\n').length, column: at - before.lastIndexOf('\n') }
}

function read(whole: string): string | null {
  try {
    return fs.statSync(whole).size > LARGEST ? null : fs.readFileSync(whole, 'utf8')
  } catch {
    return null
  }
}
