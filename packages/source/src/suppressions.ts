import type { SourceLiteral } from './source.ts'

/** `mappa-ignore: <reason>` in a comment: the value on this line, or on the next one, is meant to stand here. */
const SUPPRESSION = /\bmappa-ignore: \S/

/** Leaves out the values for which a comment says, with a reason, that they stay where they are. */
export function applySuppressions<T extends Pick<SourceLiteral, 'line'>>(
  literals: readonly T[],
  text: string,
): readonly T[] {
  if (!text.includes('mappa-ignore')) return literals
  const lines = text.split('\n')
  return literals.filter(
    ({ line }) => !SUPPRESSION.test(lines[line - 1] ?? '') && !SUPPRESSION.test(lines[line - 2] ?? ''),
  )
}
