import { escapeInvisible } from '../../../mappa/src/core/text/escape-invisible.ts'
import { out } from './streams.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** Loaded only by what shows a difference, and required: to import CommonJS makes Node read each file twice. */
const loadDiff = () => createRequire(import.meta.url)('diff') as typeof import('diff')

/**
 * What differs between two texts, as a unified diff (POSIX `diff -u`). The texts must not contain secrets: the caller
 * has masked them.
 *
 * @param file the path to name
 * @param context how many lines to show around each change
 */
export function diffOf(file: string, before: string, after: string, context = 2): string {
  const { paint } = out
  const patch = loadDiff().createTwoFilesPatch(file, file, before, after, undefined, undefined, { context })
  const lines = patch.split('\n').filter((line) => !/^(=+$|Index: )/.test(line))
  return lines
    .filter((line) => !line.startsWith('\\'))
    .map((line) => escapeInvisible(line))
    .map((line) => {
      if (line.startsWith('+++') || line.startsWith('---')) return paint.strong(line)
      if (line.startsWith('+')) return paint.added(line)
      if (line.startsWith('-')) return paint.error(line)
      return line.startsWith('@@') ? paint.faint(line) : line
    })
    .join('\n')
    .trimEnd()
}
