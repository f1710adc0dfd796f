import { visible } from '../../core/text/visible.ts'
import { loadDiff } from '../packages.ts'
import { out } from './terminal.ts'

/**
 * What differs between two texts, as a unified diff (POSIX `diff -u`). The texts hold no secrets: whoever calls this
 * has masked them.
 *
 * @param file the path to name
 */
export function diffOf(file: string, before: string, after: string): string {
  const { paint } = out
  const patch = loadDiff().createTwoFilesPatch(file, file, before, after, undefined, undefined, { context: 2 })
  const lines = patch.split('\n').filter((line) => !/^=+$/.test(line))
  return lines
    .filter((line) => !line.startsWith('\\'))
    .map((line) => visible(line))
    .map((line) => {
      if (line.startsWith('+++') || line.startsWith('---')) return paint.strong(line)
      if (line.startsWith('+')) return paint.added(line)
      if (line.startsWith('-')) return paint.error(line)
      return line.startsWith('@@') ? paint.faint(line) : line
    })
    .join('\n')
    .trimEnd()
}
