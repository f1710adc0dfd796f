import type { DiffLine, DiffView } from '../views/diff.ts'
import { out } from './streams.ts'

const SIGNS: Readonly<Record<DiffLine['kind'], string>> = { added: '+', removed: '-', same: ' ', place: '' }

/**
 * A diff in colors.
 *
 * @param label the path to name
 */
export function formatDiff({ lines }: DiffView, label: string): string {
  const { paint } = out
  const painted = lines.map(({ kind, text }) => {
    const line = `${SIGNS[kind]}${text}`
    if (kind === 'added') return paint.added(line)
    if (kind === 'removed') return paint.error(line)
    return kind === 'place' ? paint.faint(line) : line
  })
  return [paint.strong(`--- ${label}`), paint.strong(`+++ ${label}`), ...painted].join('\n').trimEnd()
}
