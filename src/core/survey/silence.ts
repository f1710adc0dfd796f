import type { SourceLiteral } from './source.ts'

/** `mappa: stays, <reason>` in a comment: the value on this line, or on the next one, is meant to stand here. */
const SILENCE = /\bmappa: stays, \S/

/** Leaves out the values for which a comment says, with a reason, that they stay where they are. */
export function applySilence<T extends Pick<SourceLiteral, 'line'>>(
  literals: readonly T[],
  text: string,
): readonly T[] {
  if (!text.includes('mappa: stays')) return literals
  const lines = text.split('\n')
  return literals.filter(({ line }) => !SILENCE.test(lines[line - 1] ?? '') && !SILENCE.test(lines[line - 2] ?? ''))
}
